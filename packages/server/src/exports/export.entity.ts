import { Column, Entity, Index, PrimaryGeneratedColumn } from "typeorm";

/** A file that has left: of which revision it was, by which preset, and what reading it back has shown. */
@Entity({ name: "export" })
@Index("export_of_part", ["part", "id"])
export class ExportRow {
  @PrimaryGeneratedColumn()
  id: number;

  @Column({ type: "text" })
  part: string;

  @Column({ type: "text" })
  madeAt: string;

  /** Who saved it, where they said so. */
  @Column({ type: "text" })
  by: string;

  @Column({ type: "integer" })
  revision: number;

  @Column({ type: "text" })
  format: string;

  @Column({ type: "text" })
  file: string;

  @Column({ type: "text" })
  sha256: string;

  /** The preset's name. */
  @Column({ type: "text" })
  preset: string;

  /** The lines of the proof, as JSON. */
  @Column({ type: "text" })
  proof: string;

  /** What the blank was, in numbers, as JSON. */
  @Column({ type: "text" })
  facts: string;
}

import { Column, Entity, PrimaryColumn } from "typeorm";

/** One accepted save of a part. Rows are only ever added, and thinned when they are old. */
@Entity({ name: "revision" })
export class RevisionRow {
  @PrimaryColumn({ type: "text" })
  part: string;

  /** Counts from 1 within a part. */
  @PrimaryColumn({ type: "integer" })
  number: number;

  @Column({ type: "text" })
  madeAt: string;

  @Column({ type: "text" })
  document: string;

  /** The commands that made it of the kept revision before, as JSON; nothing where the document was taken in whole. */
  @Column({ type: "text", nullable: true })
  commands: string | null;

  /** What changed, in words: a list as JSON. */
  @Column({ type: "text" })
  said: string;

  /** What a person calls it. A revision with a name is kept for ever. */
  @Column({ type: "text", nullable: true })
  name: string | null;
}

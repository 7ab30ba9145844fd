import { Column, Entity, Index, PrimaryColumn } from "typeorm";

/** A part as kept: which revision is its newest, and a preview so that the Shelf need not build anything. */
@Entity({ name: "part" })
export class PartRow {
  @PrimaryColumn({ type: "text" })
  id: string;

  @Column({ type: "text" })
  name: string;

  /** The number of its newest revision. Grows by one with every save; a save names the one it started from. */
  @Column({ type: "integer" })
  revision: number;

  /** The pictures, as JSON. */
  @Column({ type: "text" })
  preview: string;

  /** What the Shelf lists, as JSON; empty until it is made. */
  @Column({ type: "text" })
  summary: string;

  /** The revision that pictures and summary are of; 0 while there are none. */
  @Column({ type: "integer" })
  pictured: number;

  @Column({ type: "text" })
  createdAt: string;

  @Index()
  @Column({ type: "text" })
  updatedAt: string;

  /** When it was put into the bin; empty while it stands on the Shelf. */
  @Column({ type: "text", nullable: true })
  binnedAt: string | null;
}

import { Column, Entity, PrimaryColumn } from "typeorm";

/** A change of stock that parts take over, until every part of it is done or it is cancelled. */
@Entity({ name: "take_over" })
export class TakeOverRow {
  @PrimaryColumn({ type: "text" })
  id: string;

  @Column({ type: "text" })
  startedAt: string;

  @Column({ type: "text", nullable: true })
  endedAt: string | null;

  @Column({ type: "text" })
  state: "working" | "finished" | "cancelled";

  /** The cards as they were when it was asked for, as JSON. */
  @Column({ type: "text" })
  cards: string;
}

/** What becomes of one part of it: written in the transaction that changes the part. */
@Entity({ name: "take_over_part" })
export class TakeOverPartRow {
  @PrimaryColumn({ type: "text" })
  job: string;

  @PrimaryColumn({ type: "integer" })
  place: number;

  @Column({ type: "text" })
  part: string;

  @Column({ type: "text" })
  name: string;

  @Column({ type: "text" })
  state: "waiting" | "changed" | "skipped";

  /** The revision that it made. */
  @Column({ type: "integer", nullable: true })
  revision: number | null;

  /** Why the part was left as it is. */
  @Column({ type: "text", nullable: true })
  why: string | null;
}

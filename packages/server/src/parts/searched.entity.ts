import { Column, Entity, PrimaryColumn } from "typeorm";

/** What the search for collisions found in a document. */
@Entity("searched")
export class SearchedRow {
  /** The hash of the document and of the program that searched. */
  @PrimaryColumn("text")
  key: string;

  /** A list of findings, as JSON. */
  @Column("text")
  findings: string;
}

import type { StockSection } from "@hillcrest/core";
import { Column, Entity, PrimaryColumn } from "typeorm";

/** One item of the stock library as kept: a material, gauge list, chart, die, set of test bends or card. */
@Entity({ name: "stock_item" })
export class StockItemRow {
  @PrimaryColumn({ type: "text" })
  section: StockSection;

  @PrimaryColumn({ type: "text" })
  id: string;

  @Column({ type: "text" })
  name: string;

  @Column({ type: "text" })
  item: string;

  /** Grows with every save; a card's also when something it refers to changes. */
  @Column({ type: "integer" })
  revision: number;

  /** Where it stands in its section. */
  @Column({ type: "integer" })
  place: number;

  @Column({ type: "text" })
  updatedAt: string;
}

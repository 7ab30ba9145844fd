import { itemProblems, readLibrary, STOCK_SECTIONS, type StockSection } from "@hillcrest/core";
import {
  ArrayMaxSize,
  IsArray,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Min,
  type ValidationArguments,
} from "class-validator";
import { HoldsTo } from "../check-body.ts";

const itemRules = ({ object, value }: ValidationArguments) => {
  const { section } = object as { section?: StockSection };
  return section && STOCK_SECTIONS.includes(section) ? itemProblems(section, value) : [];
};

const libraryRules = ({ value }: ValidationArguments) => {
  const read = readLibrary(value);
  return read.ok ? [] : read.error;
};

const allOf =
  (...rules: readonly PropertyDecorator[]): PropertyDecorator =>
  (target, key) => {
    for (const rule of rules) rule(target, key);
  };

/** Parts by their addresses. */
const PartList = (): PropertyDecorator =>
  allOf(
    IsArray({ message: "The parts must be a list of addresses." }),
    ArrayMaxSize(10_000, { message: "At most 10000 parts can take a change over at once." }),
    IsString({ each: true, message: "Each part must be named by its address." }),
  );

const SECTION = { message: `The section must be one of ${STOCK_SECTIONS.join(", ")}.` };

/** `PUT /api/stock/:section/:id` */
export class SaveStockItemBody {
  @IsIn(STOCK_SECTIONS as StockSection[], SECTION)
  section: StockSection;

  @IsInt({ message: "The revision that the save started from must be a whole number." })
  @Min(0, { message: "The revision that the save started from must be at least 0." })
  revision: number;

  @HoldsTo(itemRules)
  item: unknown;

  /** The parts that are to take the change over. */
  @IsOptional()
  @PartList()
  parts?: string[];
}

/** `POST /api/stock/impact` */
export class StockImpactBody {
  @IsOptional()
  @IsIn(STOCK_SECTIONS as StockSection[], SECTION)
  section?: StockSection;

  @IsOptional()
  @HoldsTo(itemRules)
  item?: unknown;

  @IsOptional()
  @IsString({ message: "The card must be named by its id." })
  card?: string;
}

/** `POST /api/stock/take-over` */
export class TakeOverBody {
  @PartList()
  parts: string[];
}

/** `POST /api/stock/library` */
export class ImportLibraryBody {
  @HoldsTo(libraryRules)
  library: unknown;
}

import { itemProblems, readLibrary, STOCK_SECTIONS, type StockSection } from "@hillcrest/core";
import { Type } from "class-transformer";
import {
  ArrayMaxSize,
  IsArray,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Min,
  Validate,
  type ValidationArguments,
  ValidatorConstraint,
  type ValidatorConstraintInterface,
} from "class-validator";
import { CARRIED_RULE } from "../check-body.ts";

const problemsOf = ({ object, value }: ValidationArguments) => {
  const { section } = object as { section?: StockSection };
  return section && STOCK_SECTIONS.includes(section) ? itemProblems(section, value) : [];
};

/** Holds an item to the rules of its section, which live in core. */
@ValidatorConstraint({ name: CARRIED_RULE })
class StockItemRule implements ValidatorConstraintInterface {
  validate(_value: unknown, about: ValidationArguments): boolean {
    return problemsOf(about).length === 0;
  }

  defaultMessage(about: ValidationArguments): string {
    return JSON.stringify(problemsOf(about));
  }
}

/** Holds a whole library to its rules. */
@ValidatorConstraint({ name: CARRIED_RULE })
class LibraryRule implements ValidatorConstraintInterface {
  validate(value: unknown): boolean {
    return readLibrary(value).ok;
  }

  defaultMessage({ value }: ValidationArguments): string {
    const read = readLibrary(value);
    return read.ok ? "" : JSON.stringify(read.error);
  }
}

const SECTION = { message: `The section must be one of ${STOCK_SECTIONS.join(", ")}.` };

/** `PUT /api/stock/:section/:id` */
export class SaveStockItemBody {
  @IsIn(STOCK_SECTIONS as StockSection[], SECTION)
  section: StockSection;

  @Type(() => Number)
  @IsInt({ message: "The revision that the save started from must be a whole number." })
  @Min(0, { message: "The revision that the save started from must be at least 0." })
  revision: number;

  @Validate(StockItemRule)
  item: unknown;
}

/** `POST /api/stock/impact` */
export class StockImpactBody {
  @IsOptional()
  @IsIn(STOCK_SECTIONS as StockSection[], SECTION)
  section?: StockSection;

  @IsOptional()
  @Validate(StockItemRule)
  item?: unknown;
}

/** `POST /api/stock/take-over` */
export class TakeOverBody {
  @IsArray({ message: "The parts must be a list of addresses." })
  @ArrayMaxSize(10_000, { message: "At most 10000 parts can be brought up to date at once." })
  @IsString({ each: true, message: "Each part must be named by its address." })
  parts: string[];
}

/** `POST /api/stock/library` */
export class ImportLibraryBody {
  @Validate(LibraryRule)
  library: unknown;
}

import { readDocument } from "@hillcrest/core";
import { Type } from "class-transformer";
import {
  IsBoolean,
  IsInt,
  IsOptional,
  Min,
  Validate,
  type ValidationArguments,
  ValidatorConstraint,
  type ValidatorConstraintInterface,
} from "class-validator";
import { CARRIED_RULE } from "../check-body.ts";

/** Holds a value to the part document's rules, which live in core. */
@ValidatorConstraint({ name: CARRIED_RULE })
class PartDocumentRule implements ValidatorConstraintInterface {
  validate(value: unknown): boolean {
    return readDocument(value).ok;
  }

  defaultMessage({ value }: ValidationArguments): string {
    const result = readDocument(value);
    return result.ok ? "" : JSON.stringify(result.error);
  }
}

/** `POST /api/parts` */
export class CreatePartBody {
  @Validate(PartDocumentRule)
  document: unknown;
}

/** `PUT /api/parts/:id` */
export class SavePartBody extends CreatePartBody {
  @Type(() => Number)
  @IsInt({ message: "The revision that the save started from must be a whole number." })
  @Min(1, { message: "The revision that the save started from must be at least 1." })
  revision: number;
}

/** `POST /api/parts/:id/copy` */
export class CopyPartBody {
  @IsOptional()
  @IsBoolean({ message: "Whether the copy follows its part must be true or false." })
  follows?: boolean;
}

import { readDocument } from "@hillcrest/core";
import { IsBoolean, IsInt, IsOptional, Min, type ValidationArguments } from "class-validator";
import { HoldsTo } from "../check-body.ts";

const documentProblems = ({ value }: ValidationArguments) => {
  const read = readDocument(value);
  return read.ok ? [] : read.error;
};

/** `POST /api/parts` */
export class CreatePartBody {
  @HoldsTo(documentProblems)
  document: unknown;
}

/** `PUT /api/parts/:id` */
export class SavePartBody extends CreatePartBody {
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

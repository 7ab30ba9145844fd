import { readCommands, readDocument } from "@hillcrest/core";
import {
  IsBoolean,
  IsInt,
  IsOptional,
  IsString,
  MaxLength,
  Min,
  MinLength,
  ValidateIf,
  type ValidationArguments,
} from "class-validator";
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

const commandProblems = ({ value }: ValidationArguments) => {
  const read = readCommands(value);
  return read.ok ? [] : read.error;
};

/** What starts from a revision: somebody may have saved since. */
export class FromRevisionBody {
  @IsInt({ message: "The revision that this starts from must be a whole number." })
  @Min(1, { message: "The revision that this starts from must be at least 1." })
  revision: number;
}

/** `PUT /api/parts/:id` */
export class SavePartBody extends FromRevisionBody {
  @HoldsTo(documentProblems)
  document: unknown;
}

/** `PATCH /api/parts/:id`: one command, or a list of them. */
export class EditPartBody extends FromRevisionBody {
  @HoldsTo(commandProblems)
  commands: unknown;
}

/** `PUT /api/parts/:id/revisions/:number/name`: a name, or `null` for none. */
export class CallRevisionBody {
  @ValidateIf((body: CallRevisionBody) => body.name !== null)
  @IsString({ message: "The name must be a text, or null for none." })
  @MinLength(1, { message: "The name needs at least one character; null takes it away." })
  @MaxLength(80, { message: "The name can have at most 80 characters." })
  name: string | null;
}

/** `POST /api/parts/:id/copy` */
export class CopyPartBody {
  @IsOptional()
  @IsBoolean({ message: "Whether the copy follows its part must be true or false." })
  follows?: boolean;
}

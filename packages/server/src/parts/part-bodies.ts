import { readDocument } from "@hillcrest/core";
import { plainToInstance, Type } from "class-transformer";
import {
  IsBoolean,
  IsInt,
  IsOptional,
  Min,
  Validate,
  type ValidationArguments,
  type ValidationError,
  ValidatorConstraint,
  type ValidatorConstraintInterface,
  validateSync,
} from "class-validator";

/** One thing wrong with a request, and the path of the value. */
export interface BodyProblem {
  readonly path: string;
  readonly message: string;
}

/** Holds a value to the part document's rules, which live in core. */
@ValidatorConstraint({ name: "partDocument" })
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

/** Checks a request body. Problems name the path inside the body. */
export function checkBody<T extends object>(
  type: new () => T,
  body: unknown,
): { value: T } | { problems: BodyProblem[] } {
  if (typeof body !== "object" || body === null || Array.isArray(body)) {
    return { problems: [{ path: "", message: "The request needs a JSON object as its body." }] };
  }
  const value = plainToInstance(type, { ...body, document: undefined }, { exposeDefaultValues: true });
  // The document is held to its own rules and must arrive exactly as it was sent.
  Object.assign(value, { document: (body as { document?: unknown }).document });
  const errors = validateSync(value, { forbidUnknownValues: false });
  return errors.length === 0 ? { value } : { problems: errors.flatMap(problemsOf) };
}

function problemsOf(error: ValidationError): BodyProblem[] {
  return Object.entries(error.constraints ?? {}).flatMap(([rule, message]) => {
    if (rule !== "partDocument") return [{ path: `/${error.property}`, message }];
    return (JSON.parse(message) as BodyProblem[]).map((p) => ({ ...p, path: `/document${p.path}` }));
  });
}

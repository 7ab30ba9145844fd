import { plainToInstance } from "class-transformer";
import { ValidateBy, type ValidationArguments, type ValidationError, validateSync } from "class-validator";
import type { BodyProblem } from "./problem.ts";

/** The name of the rule whose message is a list of problems, as JSON, with paths of their own. */
const CARRIED_RULE = "carried";

/** Holds a property to rules that live in core: what is wrong with it, each problem with its path. */
export const HoldsTo = (
  problemsIn: (about: ValidationArguments) => readonly BodyProblem[],
): PropertyDecorator =>
  ValidateBy({
    name: CARRIED_RULE,
    validator: {
      validate: (_value, about) => problemsIn(about!).length === 0,
      defaultMessage: (about) => JSON.stringify(problemsIn(about!)),
    },
  });

/**
 * Checks a request body by the decorators of its class. Problems name the path inside the body.
 * `carried` names the property that holds a document of ours, which no conversion may touch.
 */
export function checkBody<T extends object>(
  type: new () => T,
  body: unknown,
  carried = "document",
): { value: T } | { problems: BodyProblem[] } {
  if (typeof body !== "object" || body === null || Array.isArray(body)) {
    return { problems: [{ path: "", message: "The request needs a JSON object as its body." }] };
  }
  const value = plainToInstance(type, { ...body, [carried]: undefined }, { exposeDefaultValues: true });
  Object.assign(value, { [carried]: (body as Record<string, unknown>)[carried] });
  const errors = validateSync(value, { forbidUnknownValues: false });
  return errors.length === 0 ? { value } : { problems: errors.flatMap(problemsOf) };
}

function problemsOf(error: ValidationError): BodyProblem[] {
  return Object.entries(error.constraints ?? {}).flatMap(([rule, message]) => {
    if (rule !== CARRIED_RULE) return [{ path: `/${error.property}`, message }];
    return (JSON.parse(message) as BodyProblem[]).map((p) => ({ ...p, path: `/${error.property}${p.path}` }));
  });
}

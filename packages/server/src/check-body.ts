import { nearestName } from "@hillcrest/core";
import { plainToInstance } from "class-transformer";
import {
  getMetadataStorage,
  ValidateBy,
  type ValidationArguments,
  type ValidationError,
  validateSync,
} from "class-validator";
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
  const unknown = unknownNames(type, body);
  if (unknown.length > 0) return { problems: unknown };
  const value = plainToInstance(type, { ...body, [carried]: undefined }, { exposeDefaultValues: true });
  Object.assign(value, { [carried]: (body as Record<string, unknown>)[carried] });
  const errors = validateSync(value, { forbidUnknownValues: false });
  return errors.length === 0 ? { value } : { problems: errors.flatMap(problemsOf) };
}

/** Names in a request that it does not take, such as a misspelt one: what it says would be passed over. */
function unknownNames(type: new () => object, body: object): BodyProblem[] {
  const rules = getMetadataStorage().getTargetValidationMetadatas(type, "", false, false);
  const known = [...new Set(rules.map((rule) => rule.propertyName))];
  return Object.keys(body)
    .filter((name) => !known.includes(name))
    .map((name) => {
      const near = nearestName(name, known);
      const help = near ? `did you mean "${near}"?` : `it takes ${known.join(", ")}.`;
      return {
        path: `/${name.slice(0, 40)}`,
        message: `"${name.slice(0, 40)}" is not a value of this request; ${help}`,
      };
    });
}

function problemsOf(error: ValidationError): BodyProblem[] {
  return Object.entries(error.constraints ?? {}).flatMap(([rule, message]) => {
    if (rule !== CARRIED_RULE) return [{ path: `/${error.property}`, message }];
    return (JSON.parse(message) as BodyProblem[]).map((p) => ({ ...p, path: `/${error.property}${p.path}` }));
  });
}

/** Pieces that descriptions of several addresses share. */
export const json = (schema: object) => ({ content: { "application/json": { schema } } });
export const ref = (name: string) => ({ $ref: `#/components/schemas/${name}` });
export const listOf = (name: string) => json({ type: "array", items: ref(name) });
export const orNull = (schema: object) => ({ anyOf: [schema, { type: "null" }] });
export const id = {
  name: "id",
  in: "path",
  required: true,
  description: "The id of the part or item",
  schema: { type: "string" },
};
/** A problem document as an answer. */
export const problem = (description: string, schema = "Problem") => ({
  description,
  content: { "application/problem+json": { schema: ref(schema) } },
});
export const notFound = problem("There is no such thing");
export const invalid = problem("The request is wrong; every problem has its place and field");
export const notPossible = problem("It cannot be done with this part, or takes too long");
export const tooLarge = problem("The request is too large");

/** An object whose properties all stand in it, but those named as optional. */
export const object = (properties: Readonly<Record<string, object>>, optional: readonly string[] = []) => ({
  type: "object",
  required: Object.keys(properties).filter((key) => !optional.includes(key)),
  properties,
});

export const TEXT = { type: "string" };
export const TIME = { type: "string", format: "date-time" };
export const NUMBER = { type: "number" };
export const WHOLE = { type: "integer" };
export const REVISION = { type: "integer", minimum: 1 };
export const YES = { type: "boolean" };

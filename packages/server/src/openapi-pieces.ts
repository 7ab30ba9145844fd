/** Pieces that descriptions of several addresses share. */
export const json = (schema: object) => ({ content: { "application/json": { schema } } });
export const ref = (name: string) => ({ $ref: `#/components/schemas/${name}` });
export const listOf = (name: string) => json({ type: "array", items: ref(name) });
export const id = { name: "id", in: "path", required: true, schema: { type: "string" } };
export const notFound = { description: "There is no such thing", ...json(ref("Problem")) };
export const invalid = {
  description: "The document or the request is wrong; every problem has a path",
  ...json(ref("Problem")),
};

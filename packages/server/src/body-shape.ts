import type { RequestHandler } from "express";
import { answerProblem } from "./problem.ts";

/** No document of ours nests deeper, nor has an object more names: more is an attack or an accident. */
const DEEPEST = 64;
const MOST_NAMES = 2000;
/** A request names only a few things; a document within one may name more. */
const MOST_TOP_NAMES = 20;

const FORBIDDEN = ["constructor", "__proto__", "prototype"];

function problemOf(body: object): string | undefined {
  const top = Object.keys(body).length;
  if (!Array.isArray(body) && top > MOST_TOP_NAMES)
    return `The request names ${top} things; it can name at most ${MOST_TOP_NAMES}.`;
  let level: object[] = [body];
  for (let depth = 0; level.length > 0; depth++) {
    if (depth > DEEPEST) return `The request nests deeper than ${DEEPEST} levels.`;
    const below: object[] = [];
    for (const value of level) {
      // Such a name would stand in for what every object has.
      const forbidden = FORBIDDEN.find((name) => Object.hasOwn(value, name));
      if (forbidden) return `The request may not name "${forbidden}".`;
      const inner = Object.values(value);
      if (!Array.isArray(value) && inner.length > MOST_NAMES)
        return `An object in the request has ${inner.length} names; it can have at most ${MOST_NAMES}.`;
      for (const v of inner) if (typeof v === "object" && v !== null) below.push(v);
    }
    level = below;
  }
  return undefined;
}

/** Refuses bodies of a shape that no request of ours has, before anything else looks at them. */
export const checkBodyShape: RequestHandler = (req, res, next) => {
  const { body } = req as { body?: unknown };
  const problem = typeof body === "object" && body !== null ? problemOf(body) : undefined;
  if (problem) return void answerProblem(res, "invalid-request", { detail: problem });
  next();
};

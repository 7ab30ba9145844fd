import type { Response } from "express";

/** One thing wrong with a request, and its place as a JSON pointer into the body. */
export interface BodyProblem {
  readonly path: string;
  readonly message: string;
}

/** Kinds of problem: what a program tells them apart by, and their titles. */
export const PROBLEMS = {
  "invalid-request": { status: 400, title: "The request is wrong" },
  "refused-host": { status: 421, title: "The server is not known by this name" },
  "foreign-page": { status: 403, title: "Another web page asked for this" },
  "not-found": { status: 404, title: "There is no such thing" },
  stale: { status: 409, title: "It was saved elsewhere since" },
  "in-use": { status: 409, title: "Something else uses it" },
  "too-large": { status: 413, title: "The request is too large" },
  "not-possible": { status: 422, title: "It cannot be done with this part" },
  "server-error": { status: 500, title: "The server failed" },
  "not-done": { status: 503, title: "It was not done" },
  "database-trouble": { status: 507, title: "The database cannot be written" },
} as const;

export type ProblemKind = keyof typeof PROBLEMS;

interface ProblemDetails {
  /** What is wrong, where, and what would work. */
  readonly detail: string;
  /** Every single problem with its place. */
  readonly problems?: readonly BodyProblem[];
  /** Another status than that of its kind. */
  readonly status?: number;
  /** What there is now, of a save that came too late. */
  readonly current?: unknown;
}

/** A text as a sentence: what ends in a mark already gets no second one. */
export const sentence = (text: string): string => (/[.!?…]["”’)]?$/.test(text) ? text : `${text}.`);

/** The field that a pointer leads to: its last name that is no place in a list. */
function fieldAt(path: string): string | undefined {
  const names = path.split("/").slice(1);
  return names.findLast((name) => !/^\d+$/.test(name));
}

/** Answers with a problem document (RFC 9457). Places are JSON pointers (RFC 6901) into the body of the request. */
export function answerProblem(
  res: Response,
  kind: ProblemKind,
  { detail, problems, status = PROBLEMS[kind].status, ...more }: ProblemDetails,
): void {
  const errors = problems?.map(({ path, message }) => {
    const field = fieldAt(path);
    return { pointer: path, ...(field === undefined ? {} : { field }), detail: sentence(message) };
  });
  res
    .status(status)
    .type("application/problem+json")
    .send(
      JSON.stringify({
        type: `urn:hillcrest:problem:${kind}`,
        title: PROBLEMS[kind].title,
        status,
        detail: sentence(detail),
        instance: res.req.originalUrl.split("?")[0],
        ...(errors ? { errors } : {}),
        ...more,
      }),
    );
}

/** Answers that a request is wrong, the first problem in words and all with their places. */
export function answerInvalid(res: Response, what: string, problems: readonly BodyProblem[]): void {
  const [{ path, message }] = problems;
  answerProblem(res, "invalid-request", {
    detail: `${what}: ${path ? `${path}: ` : ""}${message}`,
    problems,
  });
}

import type { Response } from "express";

/** Ends when whoever asked no longer waits for the answer: what is made for nobody need not be made. */
export function clientLeft(res: Response): AbortSignal {
  const left = new AbortController();
  res.on("close", () => left.abort());
  return left.signal;
}

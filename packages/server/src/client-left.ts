import type { Response } from "express";
import type { Asker } from "./builds/turns.ts";

/** Ends when whoever asked no longer waits for the answer: what is made for nobody need not be made. */
export function clientLeft(res: Response): AbortSignal {
  const left = new AbortController();
  res.on("close", () => left.abort());
  return left.signal;
}

/** Who asks, by the address that the request came from, for as long as they wait. */
export const askerOf = (res: Response): Asker => ({
  client: res.req.socket.remoteAddress ?? "unknown",
  signal: clientLeft(res),
});

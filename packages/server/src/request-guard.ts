import { isIP } from "node:net";
import { networkInterfaces } from "node:os";
import type { RequestHandler } from "express";
import { answerProblem } from "./problem.ts";

const LOOPBACK = ["localhost", "127.0.0.1", "::1"];

/** A name without its port: `example.org:4173`, `[::1]:4173`. */
function hostName(host: string): string {
  const bracketed = /^\[([^\]]+)\]/.exec(host);
  return (bracketed ? bracketed[1] : host.replace(/:\d+$/, "")).toLowerCase();
}

export const isLoopback = (host: string): boolean =>
  LOOPBACK.includes(hostName(host)) || host.startsWith("127.");

/** The names under which requests are answered: loopback, the address listened on, and what was said. */
export function knownNames(listensOn: string, said: readonly string[]): (name: string) => boolean {
  const names = new Set([...LOOPBACK, listensOn, ...said].map((n) => n.toLowerCase()));
  const everywhere = listensOn === "0.0.0.0" || listensOn === "::";
  return (name) => {
    if (names.has(name)) return true;
    // An address cannot be made to lead elsewhere as a name can; this machine's own are its names.
    if (!everywhere || isIP(name) === 0) return false;
    return Object.values(networkInterfaces()).some((list) => list?.some((i) => i.address === name));
  };
}

/**
 * Turns away what another web page sends: a request under a name that is not this server's, as when a
 * page's own name is led to this address, and one from another site that would change anything.
 */
export function guardRequests(isKnown: (name: string) => boolean): RequestHandler {
  return (req, res, next) => {
    const { host = "", origin } = req.headers;
    if (!isKnown(hostName(host)))
      return void answerProblem(res, "refused-host", {
        detail: `This server is not known by the name “${hostName(host).slice(0, 100)}”. Open it by the address that it printed, or start it with that name in HILLCREST_NAMES.`,
      });
    if (["GET", "HEAD", "OPTIONS"].includes(req.method)) return next();
    const site = req.headers["sec-fetch-site"];
    const crossed = site === "cross-site" || site === "same-site";
    const foreign = origin !== undefined && !sameHost(origin, host);
    if (crossed || foreign)
      return void answerProblem(res, "foreign-page", {
        detail: "Only Hillcrest's own pages may change anything here. Nothing was changed.",
      });
    next();
  };
}

function sameHost(origin: string, host: string): boolean {
  try {
    return new URL(origin).host.toLowerCase() === host.toLowerCase();
  } catch {
    return false;
  }
}

import type { PartDocument } from "@hillcrest/core";
import type { PartEntry, StoredPart } from "@hillcrest/server";

export type { PartEntry, StoredPart };

/** The server answered that something is wrong with the request. */
export class Refused extends Error {
  readonly status: number;
  readonly body: { message?: string; current?: StoredPart };

  constructor(status: number, body: { message?: string; current?: StoredPart }) {
    super(body.message ?? `The server answered ${status}.`);
    this.status = status;
    this.body = body;
  }
}

/** The server could not be reached, or did not answer in time. */
export class Unreachable extends Error {
  constructor() {
    super("The server cannot be reached.");
  }
}

const PATIENCE_MS = 15_000;

async function ask<T>(method: string, path: string, body?: unknown, keepalive = false): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      keepalive,
      signal: AbortSignal.timeout(PATIENCE_MS),
      ...(body === undefined
        ? {}
        : { headers: { "content-type": "application/json" }, body: JSON.stringify(body) }),
    });
  } catch {
    throw new Unreachable();
  }
  if (response.status === 204) return undefined as T;
  const answer = await response.json().catch(() => ({}));
  if (response.ok) return answer as T;
  // A gateway or a restarting server says nothing useful: treat it as not reached, so that saving goes on trying.
  if (response.status >= 502 && response.status <= 504) throw new Unreachable();
  throw new Refused(response.status, answer);
}

export const partsApi = {
  list: (binned: boolean) => ask<PartEntry[]>("GET", `/parts${binned ? "?bin=1" : ""}`),
  read: (id: string) => ask<StoredPart>("GET", `/parts/${id}`),
  create: (document: PartDocument) => ask<StoredPart>("POST", "/parts", { document }),
  save: (id: string, revision: number, document: PartDocument, leaving = false) =>
    ask<{ revision: number; updatedAt: string }>("PUT", `/parts/${id}`, { revision, document }, leaving),
  copy: (id: string, follows = false) => ask<StoredPart>("POST", `/parts/${id}/copy`, { follows }),
  bin: (id: string) => ask<void>("DELETE", `/parts/${id}`),
  restore: (id: string) => ask<StoredPart>("POST", `/parts/${id}/restore`),
  addDemo: () => ask<{ added: number }>("POST", "/demo"),
};

/** What the server says when it refuses: a sentence, every problem with its place, and what it has now. */
export interface Answer {
  readonly message?: string;
  readonly problems?: readonly { readonly path: string; readonly message: string }[];
  readonly current?: unknown;
}

/** The server answered that something is wrong with the request. */
export class Refused extends Error {
  readonly status: number;
  readonly body: Answer;

  constructor(status: number, body: Answer) {
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

export async function ask<T>(method: string, path: string, body?: unknown, keepalive = false): Promise<T> {
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

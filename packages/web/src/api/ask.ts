/** What the server says when it refuses, as a problem document (RFC 9457), and what it has now. */
export interface Problem {
  readonly detail?: string;
  readonly errors?: readonly { readonly pointer: string; readonly detail: string }[];
  readonly current?: unknown;
}

/** The server answered that something is wrong with the request. */
export class Refused extends Error {
  readonly status: number;
  readonly problem: Problem;

  constructor(status: number, problem: Problem) {
    super(problem.detail ?? `The server answered ${status}.`);
    this.status = status;
    this.problem = problem;
  }
}

/** The server could not be reached, or did not answer in time. */
export class Unreachable extends Error {
  constructor() {
    super("The server cannot be reached.");
  }
}

const PATIENCE_MS = 15_000;
/** Where a part is built on the way the server itself gives up after 20 s, and says so. */
export const BUILT_PATIENCE_MS = 45_000;
/** Of an answer that comes line by line the next may take so long (ms): a part may be built in it. */
const LINE_PATIENCE_MS = 60_000;

interface Question {
  readonly method: string;
  readonly path: string;
  readonly body?: unknown;
  readonly signal: AbortSignal;
  readonly keepalive?: boolean;
}

/** Asks the server; what comes back says that it went well. */
async function answered({ method, path, body, ...how }: Question): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      ...how,
      ...(body === undefined
        ? {}
        : { headers: { "content-type": "application/json" }, body: JSON.stringify(body) }),
    });
  } catch {
    throw new Unreachable();
  }
  if (response.ok) return response;
  // A gateway or a restarting server says nothing useful: treat it as not reached, so that saving goes on trying.
  if (response.status >= 502 && response.status <= 504) throw new Unreachable();
  throw new Refused(response.status, await response.json().catch(() => ({})));
}

interface AskOptions {
  /** Goes on when the page is left. */
  readonly keepalive?: boolean;
  /** How long an answer may take, ms. */
  readonly patience?: number;
}

export async function ask<T>(
  method: string,
  path: string,
  body?: unknown,
  { keepalive = false, patience = PATIENCE_MS }: AskOptions = {},
): Promise<T> {
  const signal = AbortSignal.timeout(patience);
  const response = await answered({ method, path, body, signal, keepalive });
  if (response.status === 204) return undefined as T;
  return (await response.json().catch(() => ({}))) as T;
}

/**
 * Asks for what comes line by line, each as it is known; those that came together are told together. Whoever ends it by
 * `signal` is told nothing more.
 */
export async function askLines<T>(
  path: string,
  body: unknown,
  { signal, onLines }: { readonly signal: AbortSignal; readonly onLines: (lines: readonly T[]) => void },
): Promise<void> {
  const silence = new AbortController();
  let watch = setTimeout(() => silence.abort(), LINE_PATIENCE_MS);
  try {
    const ending = AbortSignal.any([signal, silence.signal]);
    const response = await answered({ method: "POST", path, body, signal: ending });
    const text = response.body!.pipeThrough(new TextDecoderStream()).getReader();
    for (let rest = ""; ; ) {
      const { done, value = "" } = await text.read();
      clearTimeout(watch);
      watch = setTimeout(() => silence.abort(), LINE_PATIENCE_MS);
      const lines = (rest + value).split("\n");
      rest = lines.pop()!;
      if (lines.length > 0) onLines(lines.map((line) => JSON.parse(line) as T));
      if (done) return;
    }
  } catch (error) {
    if (!signal.aborted) throw error instanceof Refused ? error : new Unreachable();
  } finally {
    clearTimeout(watch);
  }
}

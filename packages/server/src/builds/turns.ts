/** What work is done for: somebody who waits at a page, an export of many parts, pictures for the Shelf. */
export type WorkKind = "asked" | "export" | "picture";

/** Who asks for work on a thread: one browser's address, an export, the maker of pictures. */
export interface Asker {
  readonly client: string;
  /** Asked by somebody who waits, if nothing is said. */
  readonly kind?: WorkKind;
  /** Ends when nobody waits for it any more. */
  readonly signal?: AbortSignal;
}

/** How much of the threads' time each kind gets where all of them want it. */
const SHARES: Readonly<Record<WorkKind, number>> = { asked: 4, export: 2, picture: 1 };
const KINDS = Object.keys(SHARES) as WorkKind[];

interface Waiting {
  readonly begin: (end: () => void) => void;
}

/** The clients of one kind: what each has used up of its time, and what waits of it. */
class Line {
  /** Clients who wait, and what waits of each. */
  readonly queues = new Map<string, Waiting[]>();
  /** The time that was used, over the share of the kind, ms. */
  used = 0;
  /** The time that each client has used, ms. */
  readonly usedBy = new Map<string, number>();
}

/**
 * Hands out places on threads. Each kind of work gets its share of the time, and within a kind each client the same time;
 * who has used least is next. Whoever comes after a pause begins where the others are: nobody saves up time by waiting. No
 * client ever has all places, however much it asks for.
 */
export class Turns {
  private readonly lines = new Map(KINDS.map((kind) => [kind, new Line()]));
  private readonly running = new Map<string, number>();
  private taken = 0;

  /** @param now The time, ms. */
  constructor(
    private readonly places: number,
    private readonly now: () => number = () => performance.now(),
  ) {}

  /** How many wait. */
  get waiting(): number {
    return [...this.lines.values()].flatMap((l) => [...l.queues.values()]).reduce((n, q) => n + q.length, 0);
  }

  /** Waits for a place; the answer gives it back. Nothing when the signal ends before. */
  take({ client, kind = "asked", signal }: Asker): Promise<(() => void) | undefined> {
    return new Promise((done) => {
      if (signal?.aborted) return done(undefined);
      const line = this.lines.get(kind)!;
      const one: Waiting = {
        begin: (end) => {
          signal?.removeEventListener("abort", leave);
          done(end);
        },
      };
      const leave = () => {
        const queue = line.queues.get(client);
        const at = queue?.indexOf(one) ?? -1;
        if (at < 0) return;
        queue!.splice(at, 1);
        if (queue!.length === 0) line.queues.delete(client);
        done(undefined);
      };
      signal?.addEventListener("abort", leave, { once: true });
      this.enter(line, client, one);
      this.next();
    });
  }

  private enter(line: Line, client: string, one: Waiting): void {
    const queue = line.queues.get(client);
    if (queue) return void queue.push(one);
    if (line.queues.size === 0) {
      const others = [...this.lines.values()].filter((l) => l !== line && l.queues.size > 0);
      if (others.length > 0) line.used = Math.max(line.used, Math.min(...others.map((l) => l.used)));
    }
    const waiting = [...line.queues.keys()].map((c) => line.usedBy.get(c) ?? 0);
    const least = waiting.length > 0 ? Math.min(...waiting) : 0;
    line.usedBy.set(client, Math.max(line.usedBy.get(client) ?? 0, least));
    line.queues.set(client, [one]);
    // What those used who are long gone says nothing any more.
    if (line.usedBy.size > 1000)
      for (const c of line.usedBy.keys())
        if (!line.queues.has(c) && !this.running.has(c)) line.usedBy.delete(c);
  }

  /** Whose turn it is: the kind that has used least of its share, and of that the client that has used least. */
  private whose(): { readonly line: Line; readonly kind: WorkKind; readonly client: string } | undefined {
    const each = Math.max(1, this.places - 1);
    const found = [...this.lines].flatMap(([kind, line]) => {
      const clients = [...line.queues.keys()].filter((c) => (this.running.get(c) ?? 0) < each);
      if (clients.length === 0) return [];
      const usedBy = (c: string) => line.usedBy.get(c) ?? 0;
      return [{ line, kind, client: clients.reduce((a, b) => (usedBy(b) < usedBy(a) ? b : a)) }];
    });
    return found.length === 0 ? undefined : found.reduce((a, b) => (b.line.used < a.line.used ? b : a));
  }

  private next(): void {
    while (this.taken < this.places) {
      const turn = this.whose();
      if (!turn) return;
      const { line, kind, client } = turn;
      const queue = line.queues.get(client)!;
      const one = queue.shift()!;
      line.queues.delete(client);
      // Of those who have used the same, whoever has had a turn comes last.
      if (queue.length > 0) line.queues.set(client, queue);
      this.taken++;
      this.running.set(client, (this.running.get(client) ?? 0) + 1);
      one.begin(this.endOf(line, kind, client));
    }
  }

  private endOf(line: Line, kind: WorkKind, client: string): () => void {
    const begun = this.now();
    let ended = false;
    return () => {
      if (ended) return;
      ended = true;
      const took = this.now() - begun;
      line.used += took / SHARES[kind];
      line.usedBy.set(client, (line.usedBy.get(client) ?? 0) + took);
      this.taken--;
      const left = this.running.get(client)! - 1;
      if (left > 0) this.running.set(client, left);
      else this.running.delete(client);
      this.next();
    };
  }
}

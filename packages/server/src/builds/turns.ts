/** Who asks for work on a thread: one browser's address, an export, the maker of pictures. */
export interface Asker {
  readonly client: string;
  /** Ends when nobody waits for it any more. */
  readonly signal?: AbortSignal;
}

interface Waiting {
  readonly begin: (end: () => void) => void;
}

/**
 * Hands out places on threads by turns: of those who wait, each client gets one place before any gets the next, and no
 * client ever has all of them, however much it asks for.
 */
export class Turns {
  /** Clients who wait, the one whose turn is next first. */
  private readonly queues = new Map<string, Waiting[]>();
  private readonly running = new Map<string, number>();
  private taken = 0;

  constructor(private readonly places: number) {}

  /** How many wait. */
  get waiting(): number {
    return [...this.queues.values()].reduce((sum, q) => sum + q.length, 0);
  }

  /** Waits for a place; the answer gives it back. Nothing when the signal ends before. */
  take({ client, signal }: Asker): Promise<(() => void) | undefined> {
    return new Promise((done) => {
      if (signal?.aborted) return done(undefined);
      const one: Waiting = {
        begin: (end) => {
          signal?.removeEventListener("abort", leave);
          done(end);
        },
      };
      const leave = () => {
        const queue = this.queues.get(client);
        const at = queue?.indexOf(one) ?? -1;
        if (at < 0) return;
        queue!.splice(at, 1);
        if (queue!.length === 0) this.queues.delete(client);
        done(undefined);
      };
      signal?.addEventListener("abort", leave, { once: true });
      const queue = this.queues.get(client);
      if (queue) queue.push(one);
      else this.queues.set(client, [one]);
      this.next();
    });
  }

  private next(): void {
    const each = Math.max(1, this.places - 1);
    while (this.taken < this.places) {
      const found = [...this.queues].find(([client]) => (this.running.get(client) ?? 0) < each);
      if (!found) return;
      const [client, queue] = found;
      const one = queue.shift()!;
      // Whoever has had a turn goes to the end of the line.
      this.queues.delete(client);
      if (queue.length > 0) this.queues.set(client, queue);
      this.taken++;
      this.running.set(client, (this.running.get(client) ?? 0) + 1);
      let ended = false;
      one.begin(() => {
        if (ended) return;
        ended = true;
        this.taken--;
        const left = this.running.get(client)! - 1;
        if (left > 0) this.running.set(client, left);
        else this.running.delete(client);
        this.next();
      });
    }
  }
}

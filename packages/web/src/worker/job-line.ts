import { type JobMessage, type JobOutcome, type JobRequest, tooLong } from "@hillcrest/core";

/** The side of a worker that jobs are sent to. */
export interface JobPlace {
  postMessage(request: JobRequest): void;
  terminate(): void;
  onmessage: ((e: { data: JobMessage }) => void) | null;
  onerror: ((e: { message?: string }) => void) | null;
}

export interface JobOptions {
  readonly part?: string;
  readonly signal?: AbortSignal;
  readonly onProgress?: (share: number, doing: string) => void;
}

export interface LineOptions {
  /** No job may take longer than this (ms); its worker is ended and another takes its place. */
  readonly limit: number;
  /** One that nobody waits for any more is given so long (ms) to end by itself, for the worker keeps what it knows. */
  readonly patience: number;
  /** What is sent of an input, asked when it is really sent: a job that is overtaken while it waits never is. */
  readonly depart?: (kind: string, input: unknown) => unknown;
  /** What becomes of every result, also of one that nobody waits for: what it says may be built on by the next. */
  readonly arrive?: (result: unknown) => unknown;
  /** A worker has been ended with all that it knew. */
  readonly onReplaced?: () => void;
}

interface Job {
  readonly request: JobRequest;
  readonly options: JobOptions;
  /** Answers whoever asked; after the first answer it does nothing. */
  readonly answer: (outcome: JobOutcome<unknown>) => void;
  /** Whether somebody still waits for it. */
  wanted: boolean;
}

/** A worker says within so long (ms) that a job has arrived, and a little longer where the page hears late. */
const HEARD_MS = 4000;
const HEARD_LATE_MS = 200;

/**
 * One worker and the jobs that wait for it. One job is done at a time; a newer one of the same kind and part
 * takes the place of one that waits, and whoever asked for the older is told at once. Every job is answered.
 */
export class JobLine {
  private place: JobPlace | undefined;
  private current: Job | undefined;
  private waiting: Job[] = [];
  private nextId = 1;
  private watch: ReturnType<typeof setTimeout> | undefined;
  /** Whether the worker has answered that a job arrived: from then on it is missed when it does not. */
  private answers = false;
  private unheard: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly open: () => JobPlace,
    private readonly line: LineOptions,
  ) {}

  run<T>(kind: string, input: unknown, options: JobOptions = {}): Promise<JobOutcome<T>> {
    return new Promise((done) => {
      const job: Job = {
        request: { id: this.nextId++, kind, part: options.part, input },
        options,
        wanted: true,
        answer: (outcome) => {
          job.wanted = false;
          done(outcome as JobOutcome<T>);
        },
      };
      const older = [...this.waiting, ...(this.current ? [this.current] : [])].filter(
        ({ request, wanted }) => wanted && request.kind === kind && request.part === options.part,
      );
      for (const one of older) this.letGo(one, "superseded");
      if (options.signal?.aborted) return job.answer({ kind: "cancelled", because: "aborted" });
      options.signal?.addEventListener("abort", () => this.letGo(job, "aborted"), { once: true });
      this.waiting.push(job);
      this.next();
    });
  }

  /** Starts the worker ahead of its first job: it reads its program while the page reads its own. */
  prepare(): void {
    this.worker();
  }

  /** Ends the worker, and everything that waits for it. */
  close(): void {
    const jobs = [...(this.current ? [this.current] : []), ...this.waiting];
    this.waiting = [];
    this.end();
    for (const job of jobs) if (job.wanted) job.answer({ kind: "cancelled", because: "closed" });
  }

  private letGo(job: Job, because: "superseded" | "aborted"): void {
    if (!job.wanted) return;
    job.answer({ kind: "cancelled", because });
    this.waiting = this.waiting.filter((w) => w !== job);
    if (job !== this.current) return;
    clearTimeout(this.watch);
    this.watch = setTimeout(() => this.replace(), this.line.patience);
  }

  private next(): void {
    if (this.current) return;
    const job = this.waiting.shift();
    if (!job) return;
    this.current = job;
    this.watch = setTimeout(() => this.overLimit(job), this.line.limit);
    const { depart = (_kind, input) => input } = this.line;
    const place = this.worker();
    place.postMessage({ ...job.request, input: depart(job.request.kind, job.request.input) });
    // A page that was held up for long hears late: what has arrived by then is heard first.
    if (this.answers)
      this.unheard = setTimeout(() => setTimeout(() => this.missed(job), HEARD_LATE_MS), HEARD_MS);
  }

  /** The worker has closed itself, unheard: another does the job. */
  private missed(job: Job): void {
    if (this.current !== job || this.unheard === undefined) return;
    this.waiting.unshift(job);
    this.replace();
  }

  private worker(): JobPlace {
    if (!this.place) {
      this.place = this.open();
      this.place.onmessage = ({ data }) => this.heard(data);
      this.place.onerror = ({ message }) => {
        const job = this.current;
        this.replace();
        if (job?.wanted) job.answer({ kind: "failure", message: message ?? "The worker ended." });
      };
    }
    return this.place;
  }

  private heard(message: JobMessage): void {
    const job = this.current;
    if (!job || message.id !== job.request.id) return;
    clearTimeout(this.unheard);
    this.unheard = undefined;
    if ("begun" in message) {
      this.answers = true;
      return;
    }
    if ("progress" in message) {
      if (job.wanted) job.options.onProgress?.(message.progress, message.doing ?? "");
      return;
    }
    clearTimeout(this.watch);
    this.current = undefined;
    if ("failure" in message) {
      if (job.wanted) job.answer({ kind: "failure", message: message.failure });
    } else {
      const { arrive = (result) => result } = this.line;
      const value = arrive(message.result);
      if (job.wanted) job.answer({ kind: "result", value });
    }
    this.next();
  }

  private overLimit(job: Job): void {
    this.replace();
    if (job.wanted) job.answer({ kind: "limit", message: tooLong(this.line.limit) });
  }

  /** Ends the worker with what it is doing; the next job starts another. */
  private replace(): void {
    this.end();
    this.next();
  }

  private end(): void {
    clearTimeout(this.watch);
    clearTimeout(this.unheard);
    this.unheard = undefined;
    this.answers = false;
    if (this.place) {
      // A message that is on its way already is no answer any more.
      this.place.onmessage = null;
      this.place.onerror = null;
      this.place.terminate();
    }
    this.place = undefined;
    this.current = undefined;
    this.line.onReplaced?.();
  }
}

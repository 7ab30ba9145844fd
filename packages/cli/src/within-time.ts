import { Worker } from "node:worker_threads";
import { UnreadableFile } from "./unreadable-file.ts";

/** Does work on a thread that is ended when it takes longer than so many seconds; says so then. */
export function withinTime<T>(program: URL, input: unknown, seconds: number, what: string): Promise<T> {
  return new Promise((done, fail) => {
    const thread = new Worker(program, { workerData: input });
    const late = setTimeout(() => {
      void thread.terminate();
      fail(
        new UnreadableFile(
          `${what}: it takes longer than ${seconds} s and was given up. --limit gives it more.`,
        ),
      );
    }, seconds * 1000);
    const end = (settle: () => void) => {
      clearTimeout(late);
      settle();
    };
    thread.once("message", (answer: T) => end(() => done(answer)));
    thread.once("error", (error) => end(() => fail(error)));
    thread.once("exit", () => end(() => fail(new UnreadableFile(`${what}: it could not be read.`))));
  });
}

import { performance } from "node:perf_hooks";
import { setTimeout as wait } from "node:timers/promises";

/** So long is looked how busy this thread is, ms. */
const LOOK = 20;
/** It has time to spare while it is at work for less than this share of the time. */
const BUSY = 0.4;

/**
 * Waits until the thread that answers people has time to spare, but no longer than `most` ms: what nobody waits for is put
 * off while many are served, and is done all the same.
 */
export async function whenCalm(most: number): Promise<void> {
  for (const end = performance.now() + most; performance.now() < end; ) {
    const before = performance.eventLoopUtilization();
    await wait(LOOK);
    if (performance.eventLoopUtilization(before).utilization < BUSY) return;
  }
}

import { setTimeout as wait } from "node:timers/promises";
import type { DataSource, EntityManager } from "typeorm";
import { isBusy } from "./database-trouble.ts";

const turns = new WeakMap<DataSource, Promise<unknown>>();
const takenBack = new WeakMap<DataSource, number>();

/** How often something was taken back: what was read of it while it was being written does not hold. */
export const timesTakenBack = (source: DataSource): number => takenBack.get(source) ?? 0;

/** Another program may hold the database for so long (ms) before a save is refused. */
const PATIENCE = 5000;
/** It is asked again after so long, ms. */
const PAUSE = 40;

/**
 * Does something in a transaction of its own. All of them share one connection, so they take turns:
 * what one writes can be no part of another that is taken back. Where another program holds the database, it is tried again
 * for a while; who reads need not wait for that.
 *
 * @param lost What a machine that fails the moment after may cost: nothing; or what is made again, such as a picture, which
 * need not wait for the disk.
 */
export function inTurn<T>(
  source: DataSource,
  work: (manager: EntityManager) => Promise<T>,
  lost: "never" | "made again" = "never",
): Promise<T> {
  const before = turns.get(source) ?? Promise.resolve();
  const turn = before.then(() => (lost === "never" ? onceFree(source, work) : unhurried(source, work)));
  // The next one waits for the end of this, however it ended.
  turns.set(
    source,
    turn.catch(() => undefined),
  );
  return turn;
}

/** Writes without waiting for the disk. The next who waits for it has this written too. */
async function unhurried<T>(source: DataSource, work: (manager: EntityManager) => Promise<T>): Promise<T> {
  await source.query("PRAGMA synchronous = NORMAL");
  try {
    return await onceFree(source, work);
  } finally {
    await source.query("PRAGMA synchronous = FULL");
  }
}

async function onceFree<T>(source: DataSource, work: (manager: EntityManager) => Promise<T>): Promise<T> {
  for (const end = performance.now() + PATIENCE; ; await wait(PAUSE)) {
    try {
      return await source.transaction(work);
    } catch (error) {
      takenBack.set(source, timesTakenBack(source) + 1);
      if (!isBusy(error) || performance.now() > end) throw error;
    }
  }
}

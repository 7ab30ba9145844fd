import type { DataSource, EntityManager } from "typeorm";

const turns = new WeakMap<DataSource, Promise<unknown>>();

/**
 * Does something in a transaction of its own. All of them share one connection, so they take turns:
 * what one writes can be no part of another that is taken back.
 */
export function inTurn<T>(source: DataSource, work: (manager: EntityManager) => Promise<T>): Promise<T> {
  const before = turns.get(source) ?? Promise.resolve();
  const turn = before.then(() => source.transaction(work));
  // The next one waits for the end of this, however it ended.
  turns.set(
    source,
    turn.catch(() => undefined),
  );
  return turn;
}

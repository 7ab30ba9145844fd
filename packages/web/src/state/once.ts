const underWay = new Set<string>();

/**
 * Does something unless the same is being done already: of two clicks that come before the answer the second asks for
 * nothing more. `what` tells what is the same.
 */
export async function once(what: string, work: () => Promise<unknown>): Promise<void> {
  if (underWay.has(what)) return;
  underWay.add(what);
  try {
    await work();
  } finally {
    underWay.delete(what);
  }
}

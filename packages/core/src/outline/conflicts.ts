/**
 * A least set of things that do not go together, of some that do not (by halves, so that few questions are asked):
 * without any one of the set the rest of it goes together. `goTogether` is asked of lists of them.
 */
export function leastConflict(
  all: readonly string[],
  goTogether: (some: readonly string[]) => boolean,
): string[] {
  const within = (given: readonly string[], changed: boolean, asked: readonly string[]): string[] => {
    if (changed && !goTogether(given)) return [];
    if (asked.length === 1) return [...asked];
    const half = asked.length >> 1;
    const [first, second] = [asked.slice(0, half), asked.slice(half)];
    const b = within([...given, ...first], first.length > 0, second);
    const a = within([...given, ...b], b.length > 0, first);
    return [...a, ...b];
  };
  return all.length === 0 ? [] : within([], false, all);
}

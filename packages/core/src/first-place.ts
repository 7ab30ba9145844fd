/**
 * Of `count` things in order the place of the first of which something holds, which holds of none before it and of all
 * after it; `count` where it holds of none.
 */
export function firstPlace(count: number, holds: (i: number) => boolean): number {
  let [low, high] = [0, count];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (holds(middle)) high = middle;
    else low = middle + 1;
  }
  return low;
}

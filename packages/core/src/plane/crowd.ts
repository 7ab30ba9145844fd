import { type Bounds, boundsMeet } from "./point.ts";

/**
 * Whether more pairs of boxes meet than `most`. Boxes that stand beside one another, as the openings of a perforation,
 * are known by how few have their corner in one cell; only where many do are pairs counted, and no more than it takes.
 */
export function isCrowd(boxes: readonly Bounds[], most: number): boolean {
  let [wide, high] = [0, 0];
  for (const b of boxes) [wide, high] = [Math.max(wide, b.maxX - b.minX), Math.max(high, b.maxY - b.minY)];
  const cells = new Map<number, Map<number, number>>();
  let pairs = 0;
  for (const { minX, minY } of boxes) {
    const [i, j] = [Math.floor(minX / (wide || 1)), Math.floor(minY / (high || 1))];
    const column = cells.get(i) ?? new Map<number, number>();
    cells.set(i, column);
    const before = column.get(j) ?? 0;
    column.set(j, before + 1);
    // Of boxes that do not meet at most a few have their corner in a cell as large as the largest.
    if (before >= FEW) pairs += before;
  }
  return pairs * AROUND > most && pairsMeeting(boxes, most) > most;
}

const FEW = 4;
/** What meets may also have its corner in one of the cells around. */
const AROUND = 9;

/** How many pairs meet, counted until there are more than `most`. */
function pairsMeeting(boxes: readonly Bounds[], most: number): number {
  const sorted = [...boxes].sort((p, q) => p.minX - q.minX);
  let active: Bounds[] = [];
  let pairs = 0;
  for (const box of sorted) {
    active = active.filter((b) => b.maxX >= box.minX);
    for (const b of active) if (boundsMeet(b, box)) pairs++;
    if (pairs > most) return pairs;
    active.push(box);
  }
  return pairs;
}

/** A face as it is seen: its rings on the picture, and how deep its plane lies there. */
export interface SeenFace {
  readonly rings: readonly (readonly (readonly [number, number])[])[];
  /** Depth towards the eye at a place of the picture: `d + a·x + b·y`. */
  readonly plane: { readonly d: number; readonly a: number; readonly b: number };
  /** Its middle's depth, by which faces are ordered where nothing else says. */
  readonly depth: number;
}

interface Box {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
}

/** Of more edges than these faces are ordered by their middles alone. */
const MOST_EDGES = 6000;
/** Planes nearer than this share of the picture lie at one depth there. */
const LEVEL = 1e-4;

function boxOf({ rings }: SeenFace): Box {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const ring of rings)
    for (const [x, y] of ring) {
      [x0, x1] = [Math.min(x0, x), Math.max(x1, x)];
      [y0, y1] = [Math.min(y0, y), Math.max(y1, y)];
    }
  return { x0, y0, x1, y1 };
}

function covers({ rings }: SeenFace, x: number, y: number): boolean {
  let inside = false;
  for (const ring of rings)
    for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
      const [[ax, ay], [bx, by]] = [ring[i], ring[j]];
      if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
    }
  return inside;
}

const depthAt = ({ plane: { d, a, b } }: SeenFace, x: number, y: number): number => d + a * x + b * y;

/** Places that lie on both of two faces: corners of one within the other, and where their borders cross. */
function* sharedPlaces(p: SeenFace, q: SeenFace): Generator<readonly [number, number]> {
  for (const [one, other] of [
    [p, q],
    [q, p],
  ])
    for (const ring of one.rings) for (const at of ring) if (covers(other, at[0], at[1])) yield at;
  for (const r of p.rings)
    for (let i = 0, j = r.length - 1; i < r.length; j = i++)
      for (const s of q.rings)
        for (let k = 0, l = s.length - 1; k < s.length; l = k++) {
          const at = crossing(r[j], r[i], s[l], s[k]);
          if (at) yield at;
        }
}

type Place = readonly [number, number];

function crossing([ax, ay]: Place, [bx, by]: Place, [cx, cy]: Place, [dx, dy]: Place): Place | undefined {
  const turn = (bx - ax) * (dy - cy) - (by - ay) * (dx - cx);
  if (Math.abs(turn) < 1e-12) return undefined;
  const f = ((cx - ax) * (dy - cy) - (cy - ay) * (dx - cx)) / turn;
  const g = ((cx - ax) * (by - ay) - (cy - ay) * (bx - ax)) / turn;
  return f > 0 && f < 1 && g > 0 && g < 1 ? [ax + (bx - ax) * f, ay + (by - ay) * f] : undefined;
}

/** Which of two faces lies before the other where both are seen: positive for the first; 0 where they only touch. */
function before(p: SeenFace, q: SeenFace, level: number): number {
  let most = 0;
  for (const [x, y] of sharedPlaces(p, q)) {
    const apart = depthAt(p, x, y) - depthAt(q, x, y);
    if (Math.abs(apart) > Math.abs(most)) most = apart;
    if (Math.abs(most) > level * 100) break;
  }
  return Math.abs(most) > level ? most : 0;
}

/**
 * In which order faces are drawn so that what is nearer covers what is farther: the places of the faces in the list, the
 * first to be drawn first. Where three cover one another in turn, one of them gives way.
 */
export function depthOrder(faces: readonly SeenFace[]): number[] {
  const byMiddle = faces.map((_, i) => i).sort((i, j) => faces[i].depth - faces[j].depth);
  const edges = faces.reduce((s, f) => s + f.rings.reduce((n, r) => n + r.length, 0), 0);
  if (edges > MOST_EDGES) return byMiddle;
  const boxes = faces.map(boxOf);
  const size = boxes.reduce((m, b) => Math.max(m, b.x1, -b.x0, b.y1, -b.y0), 1);
  const behind: number[][] = faces.map(() => []);
  const sweep = faces.map((_, i) => i).sort((i, j) => boxes[i].x0 - boxes[j].x0);
  let active: number[] = [];
  for (const i of sweep) {
    active = active.filter((j) => boxes[j].x1 > boxes[i].x0);
    for (const j of active) {
      if (boxes[j].y0 >= boxes[i].y1 || boxes[i].y0 >= boxes[j].y1) continue;
      const first = before(faces[i], faces[j], LEVEL * size);
      if (first > 0) behind[i].push(j);
      if (first < 0) behind[j].push(i);
    }
    active.push(i);
  }
  // Each face after all that lie behind it; of a ring of them the one whose middle is farthest goes first.
  const state = new Uint8Array(faces.length);
  const out: number[] = [];
  for (const start of byMiddle) {
    const stack = [start];
    while (stack.length > 0) {
      const i = stack[stack.length - 1];
      if (state[i] === 0) {
        state[i] = 1;
        for (const j of behind[i]) if (state[j] === 0) stack.push(j);
      } else {
        stack.pop();
        if (state[i] === 1) {
          state[i] = 2;
          out.push(i);
        }
      }
    }
  }
  return out;
}

import { type ChainPiece, filletCorner } from "./corner-fillet.ts";
import { arcAngles, type Curve, curveLength, directionAt, pointAt, withEnds } from "./curve.ts";
import { type Loop, welded } from "./loop.ts";
import { along, cross, dot, point } from "./point.ts";

/** A loop that turns by less at a corner, radians, goes on there. */
const SMOOTH = 1e-3;
const NONE = 1e-9;

const pieceOf = (c: Curve): ChainPiece =>
  c.kind === "line" ? undefined : { radius: c.r, way: c.ccw ? 1 : -1 };

/** How long a curve is as fillets take of it: mm of a straight one, radians of an arc. */
const measure = (c: Curve): number => (c.kind === "line" ? curveLength(c) : Math.abs(arcAngles(c).sweep));

/**
 * A loop whose corners are all rounded by one radius, between straight pieces and arcs alike; nothing where there is no
 * room for it at one of them. A loop without corners is what it was.
 */
export function roundedLoop(loop: Loop, radius: number, name: string): Loop | undefined {
  if (radius <= NONE) return loop;
  const corners = loop.map((before, i) => {
    const after = loop[(i + 1) % loop.length];
    const [d, e] = [directionAt(before, 1), directionAt(after, 0)];
    const turn = Math.atan2(cross(d, e), dot(d, e));
    return { before, after, turn, sharp: Math.abs(turn) > SMOOTH };
  });
  const fillets = corners.map(({ before, after, turn, sharp }) =>
    sharp ? filletCorner(pieceOf(before), pieceOf(after), turn, radius) : undefined,
  );
  if (fillets.some((f) => f && !f.ok)) return undefined;
  const taken = (i: number) => {
    const f = fillets[i];
    return f?.ok ? f.value : undefined;
  };
  const out: Curve[] = [];
  for (let i = 0; i < loop.length; i++) {
    const c = loop[i];
    const size = measure(c);
    const first = taken((i + loop.length - 1) % loop.length)?.after ?? 0;
    const last = taken(i)?.before ?? 0;
    if (first + last > size + NONE) return undefined;
    const [a, b] = [pointAt(c, first / size), pointAt(c, 1 - last / size)];
    if (size - first - last > NONE) out.push(withEnds(c, first > 0 ? a : c.a, last > 0 ? b : c.b));
    if (!corners[i].sharp) continue;
    const way = Math.sign(corners[i].turn);
    const d = directionAt(c, 1 - last / size);
    const centre = along(b, point(-d.y, d.x), way * radius);
    const next = loop[(i + 1) % loop.length];
    const end = pointAt(next, (taken(i)?.after ?? 0) / measure(next));
    out.push({ kind: "arc", a: b, b: end, c: centre, r: radius, ccw: way > 0, name });
  }
  return welded(out);
}

import fc from "fast-check";
import {
  OUTLINE_FORMAT,
  OUTLINE_VERSION,
  type Outline,
  type OutlineCurve,
  type OutlineDimension,
  type Relation,
} from "../src/outline/outline.ts";

/** An outline in which nothing is drawn yet. */
export const nothingDrawn: Outline = {
  format: OUTLINE_FORMAT,
  version: OUTLINE_VERSION,
  name: "Drawn",
  points: {},
  curves: [],
  relations: [],
  dimensions: [],
};

/** An outline that is known to have a solution: where everything stands there, and the same drawn a little off. */
export interface KnownOutline {
  readonly drawn: Outline;
  readonly truth: Readonly<Record<string, readonly [number, number]>>;
}

/** A source of numbers from 0 to 1 that is the same for the same seed. */
export function numbersFrom(seed: number): () => number {
  let state = (seed ^ 0x9e3779b9) >>> 0 || 1;
  return () => {
    state ^= state << 13;
    state >>>= 0;
    state ^= state >>> 17;
    state ^= state << 5;
    state >>>= 0;
    return state / 4294967296;
  };
}

type Place = readonly [number, number];
const apart = ([ax, ay]: Place, [bx, by]: Place) => Math.hypot(bx - ax, by - ay);

/**
 * Draws a chain of lines and fillets on a grid, circles and points about it, and takes some of all that is true of it as
 * relations and dimensions. Then everything is moved by up to a share of how long its lines are.
 */
export function knownOutline(seed: number, corners = 4 + (seed % 7), disturbed = 0.2): KnownOutline {
  const random = numbersFrom(seed);
  const chance = (share: number) => random() < share;
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
  const truth: Record<string, Place> = {};
  const curves: OutlineCurve[] = [];
  const relations: Relation[] = [];
  const dimensions: OutlineDimension[] = [];
  let count = 0;
  const id = (of: string) => `${of}${++count}`;
  const point = (at: Place): string => {
    const name = id("p");
    truth[name] = at;
    return name;
  };
  const hold = (kind: Relation["kind"], ...of: string[]) => relations.push({ id: id("r"), kind, of });
  const measure = (kind: OutlineDimension["kind"], value: number, ...of: string[]) =>
    dimensions.push({ id: id("d"), kind, of, value });

  // A walk along a staircase and back: lines level, upright or at a slope.
  const STEP = 10;
  const path: Place[] = [[0, 0]];
  for (let i = 1; i < corners; i++) {
    const [x, y] = path[i - 1];
    const along = i <= corners / 2 ? 1 : -1;
    const next: Place = chance(0.6)
      ? i % 2
        ? [x + along * STEP * (1 + Math.floor(random() * 3)), y]
        : [x, y + STEP * (1 + Math.floor(random() * 3))]
      : [x + along * STEP * (1 + random() * 2), y + STEP * (0.5 + random() * 2)];
    path.push(next);
  }
  const lines: string[] = [];
  const ends: [string, string][] = [];
  path.forEach((from, i) => {
    const to = path[(i + 1) % path.length];
    const [a, b] = [point(from), point(to)];
    const name = id("l");
    curves.push({ id: name, kind: "line", a, b });
    lines.push(name);
    ends.push([a, b]);
  });
  // Corners are joined, or rounded by an arc that touches both lines.
  path.forEach((at, i) => {
    const [before, after] = [(i + lines.length - 1) % lines.length, i];
    const [[a0, a], [b, b1]] = [ends[before], ends[after]];
    const [u, v] = [a0, b1].map((end): Place => {
      const far = apart(at, truth[end]);
      return [(truth[end][0] - at[0]) / far, (truth[end][1] - at[1]) / far];
    });
    const turn = Math.acos(Math.max(-1, Math.min(1, u[0] * v[0] + u[1] * v[1])));
    const room = Math.min(
      apart(at, path[(i + 1) % path.length]),
      apart(at, path[(i + path.length - 1) % path.length]),
    );
    if (chance(0.3) && turn > 0.5 && turn < 2.6 && room > 6) {
      const back = room * 0.25;
      const r = back * Math.tan(turn / 2);
      truth[a] = [at[0] + u[0] * back, at[1] + u[1] * back];
      truth[b] = [at[0] + v[0] * back, at[1] + v[1] * back];
      const middle = back / Math.cos(turn / 2);
      const [mx, my] = [u[0] + v[0], u[1] + v[1]];
      const m = Math.hypot(mx, my);
      const c = point([at[0] + (mx / m) * middle, at[1] + (my / m) * middle]);
      const [p, q] = [point(truth[a]), point(truth[b])];
      const name = id("a");
      curves.push({ id: name, kind: "arc", a: p, b: q, c, ccw: u[0] * v[1] - u[1] * v[0] < 0 });
      hold("coincident", a, p);
      hold("coincident", b, q);
      hold("tangent", lines[before], name);
      hold("tangent", name, lines[after]);
      if (chance(0.5)) measure("radius", r, name);
      else if (chance(0.3)) measure("arcLength", r * (Math.PI - turn), name);
    } else hold("coincident", a, b);
  });
  const lineAt = (i: number): [Place, Place] => [truth[ends[i][0]], truth[ends[i][1]]];
  const slope = (i: number): number => {
    const [[ax, ay], [bx, by]] = lineAt(i);
    return Math.atan2(by - ay, bx - ax);
  };
  lines.forEach((name, i) => {
    const s = slope(i);
    if (Math.abs(Math.sin(s)) < 1e-9 && chance(0.7)) hold("level", name);
    else if (Math.abs(Math.cos(s)) < 1e-9 && chance(0.7)) hold("upright", ...ends[i]);
    if (chance(0.5)) measure("length", apart(...lineAt(i)), name);
    const other = Math.floor(random() * lines.length);
    if (other === i) return;
    const between = Math.abs(((slope(other) - s + 3 * Math.PI) % (2 * Math.PI)) - Math.PI);
    if (Math.min(between, Math.PI - between) < 1e-9) {
      if (chance(0.3)) hold("parallel", name, lines[other]);
    } else if (Math.abs(between - Math.PI / 2) < 1e-9) {
      if (chance(0.3)) hold("square", name, lines[other]);
    } else if (chance(0.3) && between > 0.2 && between < Math.PI - 0.2)
      measure("angle", (between * 180) / Math.PI, name, lines[other]);
    if (Math.abs(apart(...lineAt(i)) - apart(...lineAt(other))) < 1e-9 && chance(0.4))
      hold("equal", name, lines[other]);
  });
  // A round, touching a line or about a point of the chain.
  for (let k = 0; k < 1 + (seed % 3); k++) {
    const i = Math.floor(random() * lines.length);
    const [[ax, ay], [bx, by]] = lineAt(i);
    const length = apart([ax, ay], [bx, by]);
    const [ux, uy] = [(bx - ax) / length, (by - ay) / length];
    const [along, r] = [length * (0.3 + 0.4 * random()), 2 + 3 * random()];
    const c = point([ax + ux * along - uy * r, ay + uy * along + ux * r]);
    const name = id("c");
    curves.push({ id: name, kind: "circle", c, r: r * (1 + disturbed * (random() - 0.5)) });
    hold("tangent", lines[i], name);
    if (chance(0.6)) measure(chance(0.5) ? "radius" : "diameter", 0, name);
    const last = dimensions.at(-1);
    if (last?.of[0] === name)
      dimensions[dimensions.length - 1] = { ...last, value: last.kind === "radius" ? r : 2 * r };
    if (chance(0.5)) measure("distance", apart(truth[c], [ax, ay]), c, ends[i][0]);
    if (chance(0.5)) {
      const on = point([truth[c][0] + r * Math.cos(k + 1), truth[c][1] + r * Math.sin(k + 1)]);
      hold("on", on, name);
      if (chance(0.5)) measure("distance", apart(truth[on], [bx, by]), on, ends[i][1]);
    }
  }
  // Middles, points on lines, and two points on either side of one.
  for (let k = 0; k < seed % 3; k++) {
    const i = Math.floor(random() * lines.length);
    const [[ax, ay], [bx, by]] = lineAt(i);
    if (chance(0.5)) hold("middle", point([(ax + bx) / 2, (ay + by) / 2]), lines[i]);
    else {
      const p = point([ax + (bx - ax) * 0.3 - (by - ay) * 0.2, ay + (by - ay) * 0.3 + (bx - ax) * 0.2]);
      const q = point([ax + (bx - ax) * 0.3 + (by - ay) * 0.2, ay + (by - ay) * 0.3 - (bx - ax) * 0.2]);
      hold("symmetric", p, q, lines[i]);
      if (chance(0.5)) measure("toLine", apart(truth[p], truth[q]) / 2, p, lines[i]);
      if (chance(0.4)) measure("distanceX", Math.abs(truth[p][0] - ax), p, ends[i][0]);
    }
  }
  if (chance(0.6)) relations.push({ id: id("r"), kind: "fixed", of: [ends[0][0]], at: truth[ends[0][0]] });
  if (chance(0.3)) measure("distanceY", Math.abs(path[1][1] - pick(path)[1]) || 0, ends[1][0], ends[1][0]);
  const kept = dimensions.filter((d) => new Set(d.of).size === d.of.length);

  const scale = lines.reduce((sum, _, i) => sum + apart(...lineAt(i)), 0) / lines.length;
  const off = () => (random() * 2 - 1) * disturbed * scale * 0.5;
  const points = Object.fromEntries(
    Object.entries(truth).map(([name, [x, y]]) => [name, [x + off(), y + off()] as Place]),
  );
  return {
    truth,
    drawn: {
      format: OUTLINE_FORMAT,
      version: OUTLINE_VERSION,
      name: `Outline ${seed}`,
      points,
      curves,
      relations,
      dimensions: kept,
    },
  };
}

/** Any of them, by its seed. */
export const anyKnownOutline = fc.integer({ min: 1, max: 2_000_000_000 }).map((seed) => knownOutline(seed));

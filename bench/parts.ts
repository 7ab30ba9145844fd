import { newPart, type PartDocument, type StepDocument } from "@hillcrest/core";

const of = (name: string, ...steps: StepDocument[]): PartDocument => ({ ...newPart(name), steps });

/** A long plate with `fingers` flanges side by side on one edge, and round holes in rows. */
export function comb(fingers: number, holes = 0): PartDocument {
  const pitch = 10;
  const width = fingers * pitch;
  const perRow = Math.ceil(holes / 4);
  const rows = Array.from({ length: holes }, (_, i) => ({
    key: `h${i}`,
    x: String(-width / 2 + ((i % perRow) + 0.5) * (width / perRow)),
    y: String(-30 + Math.floor(i / perRow) * 15),
    d: "6",
  }));
  return of(
    "Comb",
    { id: "s1", kind: "plate", width, depth: 100, holes: rows },
    ...Array.from(
      { length: fingers },
      (_, i): StepDocument => ({
        id: `s${i + 2}`,
        kind: "flange",
        edges: [{ key: "a", at: "s1.north" }],
        turn: i % 2 === 0 ? "up" : "down",
        length: 18 + (i % 5),
        span: "width",
        width: 6,
        at: "left",
        shift: i * pitch + 2,
        leftRelief: "round",
        leftReliefWidth: "2",
        leftReliefDepth: "1.5",
      }),
    ),
  );
}

/** Flanges each on the last. */
export const chain = (n: number): PartDocument =>
  of(
    "Chain",
    { id: "s1", kind: "plate", width: "50", depth: "50" },
    ...Array.from(
      { length: n },
      (_, i): StepDocument => ({
        id: `s${i + 2}`,
        kind: "flange",
        edges: [{ key: "a", at: i === 0 ? "s1.north" : `s${i + 1}a.end` }],
        turn: i % 2 === 0 ? "up" : "down",
        angle: "30",
        length: "30",
      }),
    ),
  );

export const PITCH = 10;

/** Round holes in rows on one plate, each a row of its table. */
export function field(n: number): PartDocument {
  const side = Math.ceil(Math.sqrt(n));
  const at = (i: number) => String((i - (side - 1) / 2) * PITCH);
  const width = String(side * PITCH);
  const holes = Array.from({ length: n }, (_, i) => ({
    key: `h${i}`,
    x: at(i % side),
    y: at(Math.floor(i / side)),
    d: "6",
  }));
  return of("Field", { id: "s1", kind: "plate", width, depth: width, holes });
}

/** A hole that is repeated in a row, on a plate whose bend is held flat for it or was not. */
export function row(n: number, held: boolean, across = false): PartDocument {
  const hold: StepDocument = { id: "s3", kind: "hold", does: "hold", which: "all" };
  return of(
    "Row",
    { id: "s1", kind: "plate", width: String(n * 10 + 40), depth: "60" },
    { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: "40" },
    ...(held ? [hold] : []),
    {
      ...{ id: "s4", kind: "cut", form: "round", plate: [{ key: "a", at: "s1" }] },
      ...{ diameter: "6", x: String(-n * 5), y: across ? "30" : "0" },
    },
    {
      id: "s5",
      kind: "pattern",
      steps: [{ key: "a", at: "s4" }],
      form: "row",
      count: String(n),
      pitch: "10",
    },
  );
}

/** A plate with n dimples in a grid, and a wall. */
export function dimples(n: number, wall = "20"): PartDocument {
  const side = Math.round(Math.sqrt(n));
  const size = String(side * 14 + 20);
  return {
    ...newPart("Dimples"),
    steps: [
      { id: "s1", kind: "plate", width: size, depth: size },
      {
        ...{ id: "s2", kind: "form", shape: "dimple", plate: [{ key: "a", at: "s1" }], x: "0", y: "0" },
        ...{ arranged: "grid", count: String(side), pitch: "14", rows: String(side), rowPitch: "14" },
      },
      { id: "s3", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: wall },
    ],
  };
}

/** A tray's bottom that one cut fills with about `n` openings, rows staggered, and a flange that the edits are of. */
export function perforation(n: number, wall = "20"): PartDocument {
  const side = Math.ceil(Math.sqrt(n * (Math.sqrt(3) / 2)));
  const size = String(side * PITCH + 10);
  return of(
    "Perforation",
    { id: "s1", kind: "plate", width: size, depth: size },
    {
      ...{ id: "s2", kind: "cut", plate: [{ key: "a", at: "s1" }], form: "round", diameter: "6" },
      ...{ arranged: "fill", pitch: String(PITCH), rowsStand: "triangle", margin: "2" },
    },
    { id: "s3", kind: "flange", edges: [{ key: "a", at: "s1.north" }], length: wall },
  );
}

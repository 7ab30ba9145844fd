import {
  type Bend,
  circleLoop,
  type Folding,
  foldSheet,
  type Loop,
  type Motion,
  type Plate,
  rectangleLoop,
  type Sheet,
  type Solid,
  solidsOf,
} from "../src/index.ts";

/** Thickness of the pieces, mm. */
export const T = 2;

/** A plate of its own, as far as the outline goes, openings in it. */
export function flatPiece(id: string, outer: Loop, holes: readonly Loop[] = []): Plate {
  return {
    kind: "plate",
    id,
    step: id,
    letter: id.toUpperCase(),
    frame: { origin: { x: 0, y: 0 }, x: { x: 1, y: 0 } },
    box: { x0: 0, y0: 0, x1: 0, y1: 0 },
    middle: { x: 0, y: 0 },
    edges: [],
    regions: [{ outer, holes }],
    marks: [],
  };
}

/** A square plate about its middle. */
export const square = (id: string, side: number): Plate =>
  flatPiece(id, rectangleLoop(-side / 2, -side / 2, side / 2, side / 2));

/** A disc about its middle. */
export const disc = (id: string, r: number): Plate => flatPiece(id, circleLoop({ x: 0, y: 0 }, r));

/** A bend of inside radius 5 that turns up by a right angle: its axis lies along x, `length` long, 7 above side A. */
export function quarter(parent: string, length: number): Bend {
  const radius = 5;
  const k = 0.4;
  const allowance = (Math.PI / 2) * (radius + k * T);
  return {
    kind: "bend",
    id: `${parent}-bend`,
    number: 1,
    step: parent,
    parent,
    child: `${parent}-leg`,
    origin: { x: -length / 2, y: 0 },
    axis: { x: 1, y: 0 },
    out: { x: 0, y: 1 },
    width: length,
    allowance,
    angle: Math.PI / 2,
    radius,
    k,
    kSource: { kind: "given" } as never,
    up: true,
    regions: [{ outer: rectangleLoop(-length / 2, 0, length / 2, allowance), holes: [] }],
    marks: [],
    unrelieved: [],
    reliefs: [],
    overhang: { left: 0, right: 0 },
  };
}

/** A turn about the axis x by an angle, then a shift. */
export const turned = (angle: number, by: readonly [number, number, number] = [0, 0, 0]): Motion => ({
  x: [1, 0, 0],
  y: [0, Math.cos(angle), Math.sin(angle)],
  z: [0, -Math.sin(angle), Math.cos(angle)],
  o: [...by],
});

/** A plate where it is put, with a bend that hangs on it. */
export interface Put {
  readonly piece: Plate;
  readonly at: Motion;
  readonly bend?: Bend;
}

/** Two plates as two sheets, each where it is put; a bend comes with the plate that it hangs on. */
export function inSpace(...put: readonly Put[]): { sheet: Sheet; folding: Folding; solids: Solid[] } {
  const sheet: Sheet = {
    t: T,
    roots: put.map(({ piece, at }) => ({ plate: piece.id, place: at })),
    pieces: put.flatMap(({ piece, bend }) =>
      bend ? [piece, { ...flatPiece(bend.child, []), regions: [] }, bend] : [piece],
    ),
    slits: [],
    features: [],
  };
  const folding = foldSheet(
    sheet,
    sheet.pieces.map(() => 1),
  );
  return { sheet, folding, solids: solidsOf(sheet, folding) };
}

/** Papers that the blank is printed on, mm. */
export const PAPERS = {
  A4: { width: 210, height: 297 },
  A3: { width: 297, height: 420 },
  Letter: { width: 215.9, height: 279.4 },
} as const;
export type Paper = keyof typeof PAPERS;

export interface PrintWish {
  readonly paper: Paper;
  readonly lies: "auto" | "upright" | "across";
  readonly size: "true" | "fit";
  readonly bends: boolean;
}

/** One page: what of the blank is on it, in mm of the blank. */
export interface PrintPage {
  readonly x: number;
  readonly y: number;
  readonly row: number;
  readonly column: number;
}

export interface PrintPlan {
  readonly paper: Paper;
  readonly across: boolean;
  readonly width: number;
  readonly height: number;
  /** Room for the drawing on each page, mm of paper. */
  readonly room: { readonly width: number; readonly height: number };
  /** mm of paper for a mm of the blank. */
  readonly scale: number;
  readonly pages: readonly PrintPage[];
}

/** White around each page, mm; printers cannot print there. */
export const MARGIN = 8;
/** Under the drawing: what it is, its scale, and the ruler. */
export const FOOT = 20;
/** Neighbouring pages show so much of the same, mm of paper. */
const OVERLAP = 10;
/** Around the blank: its overall size and dimensions, mm of paper. */
const AROUND = 22;

/** Scales that a drawing is reduced to, so that it can be read off with a common rule. */
const REDUCED = [1, 1 / 2, 1 / 2.5, 1 / 5, 1 / 10, 1 / 20, 1 / 25, 1 / 50, 1 / 100, 1 / 200, 1 / 500];

/** How a blank is laid on paper: at its true size on as many pages as that takes, or reduced to one. */
export function printPlan(
  blank: { readonly width: number; readonly height: number },
  wish: PrintWish,
): PrintPlan {
  const choices = (wish.lies === "auto" ? [false, true] : [wish.lies === "across"]).map((across) => {
    const { width: w, height: h } = PAPERS[wish.paper];
    const [width, height] = across ? [h, w] : [w, h];
    const room = { width: width - 2 * MARGIN, height: height - 2 * MARGIN - FOOT };
    const fits = (scale: number) =>
      blank.width * scale + 2 * AROUND <= room.width && blank.height * scale + 2 * AROUND <= room.height;
    const least = Math.min(
      (room.width - 2 * AROUND) / blank.width,
      (room.height - 2 * AROUND) / blank.height,
    );
    const scale = wish.size === "true" ? 1 : (REDUCED.find(fits) ?? least);
    const step = { width: room.width - OVERLAP, height: room.height - OVERLAP };
    const [drawnWidth, drawnHeight] = [blank.width * scale + 2 * AROUND, blank.height * scale + 2 * AROUND];
    const count = (drawn: number, full: number, part: number) =>
      Math.max(1, Math.ceil((drawn - full) / part) + 1);
    const columns = count(drawnWidth, room.width, step.width);
    const rows = count(drawnHeight, room.height, step.height);
    // One page holds its drawing in the middle.
    const [left, top] = [
      columns === 1 ? (room.width - drawnWidth) / 2 + AROUND : AROUND,
      rows === 1 ? (room.height - drawnHeight) / 2 + AROUND : AROUND,
    ];
    const pages = Array.from({ length: rows * columns }, (_, i): PrintPage => {
      const [row, column] = [Math.floor(i / columns), i % columns];
      return { row, column, x: column * step.width - left, y: row * step.height - top };
    });
    return { paper: wish.paper, across, width, height, room, scale, pages };
  });
  const better = (p: PrintPlan, q: PrintPlan) => p.pages.length - q.pages.length || q.scale - p.scale;
  return choices.sort(better)[0];
}

/** `1 : 2.5`, or that it is at its true size. */
export const sayScale = (scale: number): string =>
  Math.abs(scale - 1) < 1e-9 ? "true size" : `1 : ${Number((1 / scale).toFixed(2))}`;

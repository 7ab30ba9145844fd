import { type Curve, line } from "../../plane/curve.ts";
import type { Point } from "../../plane/point.ts";

/**
 * Letters of single strokes for engraving, on a grid four wide and six high from the foot of a capital. Each stroke is a
 * run of places, a place two characters: across, then up, where `a` and `b` are one and two below the line.
 */
const STROKES: Readonly<Record<string, string>> = {
  A: "002640 1333",
  B: "00063645443303 3342413000",
  C: "4536160501103041",
  D: "00062644422000",
  E: "46060040 0333",
  F: "460600 0333",
  G: "45361605011030414323",
  H: "0006 4046 0343",
  I: "1030 2026 1636",
  J: "4641301001",
  K: "0006 4602 1340",
  L: "060040",
  M: "0006234640",
  N: "00064046",
  O: "100105163645413010",
  P: "00063645443303",
  Q: "100105163645413010 2240",
  R: "00063645443303 2340",
  S: "453616050413334241301001",
  T: "0646 2026",
  U: "060110304146",
  V: "062046",
  W: "0610233046",
  X: "0046 0640",
  Y: "062346 2320",
  Z: "06460040",
  a: "4434140301103041 4440",
  b: "0600 0314344341301001",
  c: "4434140301103041",
  d: "4640 4334140301103041",
  e: "02424334140301103041",
  f: "36261510 0434",
  g: "4334140301103041 444a3b1b0a",
  h: "0600 0314344340",
  i: "2024 2526",
  j: "242a1b 2526",
  k: "0600 4402 2340",
  l: "262130",
  m: "0004 03142320 23344340",
  n: "0004 0314344340",
  o: "100103143443413010",
  p: "0b04 0314344341301001",
  q: "4b44 4334140301103041",
  r: "0004 021434",
  s: "4414031232413000",
  t: "16112030 0434",
  u: "0401103041 4440",
  v: "042044",
  w: "0410233044",
  x: "0044 0440",
  y: "0420 441b",
  z: "04440040",
  "0": "100105163645413010 1135",
  "1": "152620 1030",
  "2": "05163645440040",
  "3": "0516364544334241301001 1333",
  "4": "30360242",
  "5": "460603334241301001",
  "6": "4536160501103041423303",
  "7": "064610",
  "8": "130405163645443313 1302011030414233",
  "9": "0110304145361605041343",
  ".": "2021",
  ",": "211a",
  ":": "2021 2324",
  ";": "211a 2324",
  "-": "1333",
  _: "0040",
  "+": "1333 2224",
  "=": "1232 1434",
  "/": "0046",
  "\\": "0640",
  "(": "36151130",
  ")": "16353110",
  "[": "36161030",
  "]": "16363010",
  "<": "450341",
  ">": "054301",
  "*": "2125 1432 1234",
  "#": "1016 3036 0242 0444",
  "%": "0046 0506161505 3031414030",
  "&": "400516260401103042",
  "'": "2624",
  '"': "1614 3634",
  "!": "2021 2326",
  "?": "051636454422 2021",
  "°": "2635241526",
  "×": "1133 1331",
  "±": "1131 1434 2325",
  "~": "02133243",
  "|": "2026",
  "^": "142634",
  "▲": "01412501",
  "▼": "05452105",
  Ø: "100105163645413010 0046",
};

/** What stands for a letter that there are no strokes for: a frame. */
const UNKNOWN = "0006464000";
const ACROSS = 5.5;
const HIGH = 6;

/** A text in letters that can be written anywhere: accents go, and what has no other form is a question mark. */
export const plainText = (text: string): string =>
  text
    .replaceAll("ß", "ss")
    .replaceAll("Ø", "O")
    .replaceAll("ø", "o")
    .replaceAll("æ", "ae")
    .replaceAll("Æ", "AE")
    .normalize("NFD")
    .replace(/\p{M}+/gu, "")
    .replace(/[–—]/g, "-")
    .replace(/[“”„]/g, '"')
    .replace(/[’‘]/g, "'")
    .replace(/[^\x20-\x7e°×±]/g, "?");

const strokesOf = (letter: string): string =>
  letter === " " ? "" : (STROKES[letter] ?? STROKES[plainText(letter)] ?? UNKNOWN);

/** How wide a text of a height is, in the height's unit. */
export const textWidth = (text: string, height: number): number =>
  Math.max(0, ([...text].length * ACROSS - (ACROSS - 4)) * (height / HIGH));

/** A text as strokes, each a chain of lines: its foot begins at a place and runs along a direction. */
export function strokeText(
  text: string,
  { at, height, turn }: { readonly at: Point; readonly height: number; readonly turn: number },
): Curve[][] {
  const f = height / HIGH;
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const place = (x: number, y: number): Point => ({
    x: at.x + (x * c - y * s) * f,
    y: at.y + (x * s + y * c) * f,
  });
  const up = (code: string) => (code === "a" ? -1 : code === "b" ? -2 : Number(code));
  return [...text].flatMap((letter, i) =>
    strokesOf(letter)
      .split(" ")
      .filter((run) => run.length >= 4)
      .map((run) => {
        const points = (run.match(/../g) ?? []).map(([x, y]) => place(i * ACROSS + Number(x), up(y)));
        return points.slice(1).map((p, k) => line(points[k], p));
      }),
  );
}

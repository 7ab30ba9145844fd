import { strokeText, textWidth } from "../drawing/strokes.ts";
import { xmlText } from "../xml-text.ts";

const INK = "#B3261E";
const PAPER = "#FBE9E7";
const n = (v: number): string => String(Number(v.toFixed(4)));
/** The head of a picture as it is written here: how large it is, and what of the plane it shows. */
const HEAD = /^<svg ([^>]*)viewBox="([^"]+)"([^>]*)>/;
/** The band is this share of the picture's width high, and at most so many letters are in a line. */
const SHARE = 0.05;
const LETTERS = 110;

/** A picture with a band over it that says why the part cannot be made; the picture itself where nothing stops it. */
export function bannered(svg: string, said: readonly string[]): string {
  const head = HEAD.exec(svg);
  if (said.length === 0 || !head) return svg;
  const [x, y, w, h] = head[2].split(" ").map(Number);
  const text = said[0].length > LETTERS ? `${said[0].slice(0, LETTERS - 3)}...` : said[0];
  const band = Math.max(w, h) * SHARE;
  const height = Math.min(band * 0.4, (w * 0.94) / Math.max(1, textWidth(text, 1)));
  const at = { x: x + w * 0.03, y: -(y - band / 2 + height / 2) };
  const strokes = strokeText(text, { at, height, turn: 0 }).map((run) => {
    const places = [run[0].a, ...run.map((c) => c.b)];
    return `M${places.map((p) => `${n(p.x)} ${n(-p.y)}`).join("L")}`;
  });
  const sized = (attributes: string) =>
    attributes.replace(/height="([\d.]+)([a-z]*)"/, (_, v: string, unit: string) => {
      return `height="${n((Number(v) * (h + band)) / h)}${unit}"`;
    });
  return svg.replace(
    HEAD,
    () =>
      `<svg ${sized(head[1])}viewBox="${n(x)} ${n(y - band)} ${n(w)} ${n(h + band)}"${sized(head[3])}><desc>${xmlText(said.join(" "))}</desc><rect x="${n(x)}" y="${n(y - band)}" width="${n(w)}" height="${n(band)}" fill="${PAPER}"/><path d="${strokes.join("")}" fill="none" stroke="${INK}" stroke-width="${n(height / 9)}" stroke-linecap="round"/>`,
  );
}

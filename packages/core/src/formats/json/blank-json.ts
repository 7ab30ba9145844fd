import { orientationOf } from "../../part/blank-settings.ts";
import type { PartBuild } from "../../part/build.ts";
import type { PartDocument } from "../../part/document.ts";
import type { Curve } from "../../plane/curve.ts";
import type { Point } from "../../plane/point.ts";
import type { Blank } from "../../sheet/blank/blank.ts";
import { orientBlank } from "../../sheet/blank/orientation.ts";
import type { Sheet } from "../../sheet/sheet.ts";
import { filedLength, toDegrees } from "../../units/quantity.ts";

export const BLANK_FORMAT = "hillcrest-blank";
const BLANK_VERSION = 1;

const n = filedLength;
const place = ({ x, y }: Point) => [n(x), n(y)] as const;
const curve = (c: Curve) =>
  c.kind === "line"
    ? { kind: c.kind, from: place(c.a), to: place(c.b) }
    : { kind: c.kind, from: place(c.a), to: place(c.b), centre: place(c.c), radius: n(c.r), left: c.ccw };

/** The geometry of a blank as it lies, for other programs: mm and degrees, loops of lines and arcs that turn `left` or not. */
export function blankGeometry(
  document: PartDocument,
  build: PartBuild & { readonly sheet: Sheet; readonly blank: Blank },
) {
  const { blank, side, angle, grain } = orientBlank(
    build.sheet,
    build.blank,
    orientationOf(document, build.stock),
  );
  const numbers = new Map(build.bends.map((b) => [b.id, b]));
  return {
    format: BLANK_FORMAT,
    version: BLANK_VERSION,
    name: document.name,
    units: "mm",
    thickness: build.sheet.t,
    width: n(blank.width),
    height: n(blank.height),
    area: n(blank.area),
    sideUp: side,
    turned: n(toDegrees(angle)),
    grain: grain ? place(grain) : null,
    outlines: blank.outlines.map((l) => l.map(curve)),
    openings: blank.openings.map((l) => l.map(curve)),
    slits: blank.slits.map(curve),
    bends: blank.centreLines.flatMap(({ bend, pieces }) => {
      const row = numbers.get(bend);
      if (!row) return [];
      return [
        {
          number: row.number,
          direction: row.up === (side === "B") ? "up" : "down",
          angle: n(toDegrees(row.angle)),
          radius: n(row.radius),
          lines: pieces.map((p) => ({ from: place(p.a), to: place(p.b) })),
        },
      ];
    }),
  };
}

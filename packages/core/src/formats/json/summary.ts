import type { PartBuild } from "../../part/build.ts";
import { featureRows } from "../../part/feature-rows.ts";
import { hardwareOf } from "../../part/set-in.ts";
import { roundOf } from "../../sheet/feature.ts";
import { featuresOf } from "../../sheet/sheet.ts";
import { toDegrees } from "../../units/quantity.ts";

/** A number as it is told; what is not finite would not be JSON, and must not come this far. */
function round(v: number, places = 6): number {
  if (!Number.isFinite(v)) throw new Error(`A part's summary holds ${v}.`);
  return Number(v.toFixed(places));
}

/** The walls that are rolled: by how much, and how large at both ends. */
const rolledIn = ({ rolled }: PartBuild) =>
  rolled.map((r) => ({
    step: r.step,
    between: r.between,
    direction: r.up ? "up" : "down",
    turn: round(toDegrees(r.angle)),
    radius: r.radius.map((v) => round(v)),
    k: round(r.k),
    ba: r.allowance.map((v) => round(v)),
    length: round(r.length),
  }));

/** What the command line and other programs read of a part: numbers in mm, mm², mm³, kg and degrees. */
export function summarize(name: string, build: PartBuild) {
  const { blank, folded } = build;
  const features = featuresOf(build.sheet);
  return {
    name,
    thickness: build.stock?.thickness ?? null,
    blank: blank
      ? {
          width: round(blank.width),
          height: round(blank.height),
          area: round(blank.area),
          lengths: {
            outline: round(blank.lengths.outline),
            openings: round(blank.lengths.openings),
            slits: round(blank.lengths.slits),
            cutting: round(blank.lengths.cutting),
          },
          openings: blank.openings.length,
          roundOpenings: blank.openings.filter((o) => roundOf(o, features)).length,
        }
      : null,
    folded: folded
      ? {
          box: folded.box.max.map((v, k) => round(v - folded.box.min[k], 4)),
          volume: round(folded.volume),
          mass: round(folded.mass, 9),
        }
      : null,
    bends: build.bends.map((b) => ({
      number: b.number,
      between: b.between,
      direction: b.up ? "up" : "down",
      angle: round(toDegrees(b.angle)),
      radius: round(b.radius),
      k: round(b.k),
      kFrom: b.kSource.label,
      ba: round(b.allowance),
      bd: b.deduction === undefined ? null : round(b.deduction),
      length: round(b.length),
      pieces: b.pieces.map((v) => round(v)),
    })),
    rolled: rolledIn(build),
    features: featureRows(build).map(({ step, look, count }) => ({
      step,
      kind: look.kind,
      size: Object.fromEntries(Object.entries(look.size).map(([key, v]) => [key, round(v)])),
      thread: look.thread ?? null,
      hardware: look.hardware?.name ?? null,
      count,
    })),
    hardware: hardwareOf(build).map(({ item, count }) => ({
      name: item.name,
      sort: item.sort,
      thread: item.thread,
      opening: round(item.opening),
      count,
    })),
    findings: build.findings.map((f) => ({
      level: f.level,
      rule: f.rule,
      step: f.step ?? null,
      message: f.message,
    })),
  };
}

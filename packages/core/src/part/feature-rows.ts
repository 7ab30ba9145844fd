import { Kept } from "../kept.ts";
import type { Blank } from "../sheet/blank/blank.ts";
import type { FeatureLook } from "../sheet/feature.ts";
import type { Sheet } from "../sheet/sheet.ts";
import type { PartBuild } from "./build.ts";

/** Features of a step that are alike, as a table lists them. */
export interface FeatureRow {
  readonly step: string;
  readonly look: FeatureLook;
  readonly count: number;
}

/** The names of the features that are there: on a border of the blank, marked on it, or formed out of it. */
function standing(
  sheet: Sheet,
  { outlines, openings, slits, marks }: Blank,
): ReadonlySet<string | undefined> {
  const curves = [...outlines.flat(), ...openings.flat(), ...slits, ...marks];
  const formed = sheet.pieces.map((p) => ("feature" in p ? p.feature : undefined));
  return new Set([...curves.map(({ feature }) => feature), ...formed]);
}

interface BuiltSheet {
  readonly sheet: Sheet;
  readonly steps: PartBuild["steps"];
}

const rows = new Kept((blank: Blank, { sheet, steps }: BuiltSheet): readonly FeatureRow[] => {
  const there = standing(sheet, blank);
  const known = new Map<string, { step: string; look: FeatureLook; count: number }>();
  for (const { id, step, look } of sheet.features) {
    if (!there.has(id)) continue;
    const key = `${step} ${JSON.stringify(look)}`;
    const row = known.get(key);
    if (row) row.count++;
    else known.set(key, { step, look, count: 1 });
  }
  // Features come plate by plate, and a step works on several.
  const places = new Map(steps.map(({ id }, i) => [id, i]));
  return [...known.values()].sort((p, q) => (places.get(p.step) ?? 0) - (places.get(q.step) ?? 0));
});

/** The features of a part that still stand in it, alike ones of a step in one row, in the order of their steps. */
export const featureRows = ({ sheet, blank, steps }: PartBuild): readonly FeatureRow[] =>
  sheet && blank ? rows.of(blank, { sheet, steps }) : [];

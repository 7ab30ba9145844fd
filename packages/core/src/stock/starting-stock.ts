import { type BendChart, type ChartRow, givenFor } from "../bend/chart.ts";
import { din6935K } from "../bend/din6935.ts";
import { toRadians } from "../units/quantity.ts";
import { emptyLibrary, type GaugeList, type Material, type StockCard, type StockLibrary } from "./library.ts";

const REPLACE = "Starting values: replace them by what your own test bends say.";

/** K rises from its value at a sharp bend towards 0.5 at a large radius. */
const risingK = (sharp: number) => (ratio: number) => 0.5 - (0.5 - sharp) / (1 + ratio);

const RATIOS = [0, 0.25, 0.5, 0.75, 1, 1.5, 2, 3, 4, 5, 6, 8, 10, 15, 20];

function ratioChart(id: string, name: string, sharp: number, hardness: string): BendChart {
  const k = risingK(sharp);
  return {
    id,
    name,
    note: `K = 0.5 − (0.5 − ${sharp}) / (1 + r/t): the text-book K of ${hardness} sheet at a sharp bend, ${sharp}, rising towards the middle of the sheet as the radius grows. ${REPLACE}`,
    starting: true,
    reason: "",
    rule: {
      method: "K by r/t",
      between: "linear",
      points: RATIOS.map((ratio) => [ratio, Number(k(ratio).toFixed(4))] as const),
    },
  };
}

const round = (v: number, places: number) => Number(v.toFixed(places));

/** A table of a formula for K, in BA or BD, over the usual thicknesses, radii and angles. */
function tableChart(
  about: Pick<BendChart, "id" | "name" | "note">,
  kOf: (t: number, r: number) => number,
  gives: "BA" | "BD",
  thicknesses: readonly number[],
): BendChart {
  const radii = [0.5, 0.8, 1, 1.2, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10];
  const angles = Array.from({ length: 12 }, (_, i) => 15 * (i + 1)).filter((a) => gives === "BA" || a < 180);
  const rows = thicknesses.flatMap((t) =>
    radii
      .filter((r) => r >= 0.4 * t && r <= 10 * t)
      .flatMap((r) =>
        angles.map((degrees): ChartRow => {
          const shape = { t, r, angle: toRadians(degrees) };
          const value = givenFor({ gives, deductionTo: "outermost tangents" }, shape, kOf(t, r))!;
          return [t, r, degrees, round(value, 4)];
        }),
      ),
  );
  return {
    ...about,
    starting: true,
    reason: "",
    rule: {
      method: "table",
      gives,
      angleIs: "bend angle",
      deductionTo: "outermost tangents",
      acrossThickness: false,
      rows,
    },
  };
}

/** Charts to begin with, each built from the formula in its note. */
export function startingCharts(): BendChart[] {
  const medium = risingK(0.38);
  return [
    tableChart(
      {
        id: "start-mild-steel",
        name: "Mild steel, starting values",
        note: `BA = θ(r + K·t) with K by DIN 6935: K = (0.65 + 0.5·log10(r/t)) / 2, 0.5 above r/t 5. ${REPLACE}`,
      },
      din6935K,
      "BA",
      [0.5, 0.6, 0.8, 1, 1.2, 1.25, 1.5, 1.75, 2, 2.5, 3, 4, 5, 6],
    ),
    tableChart(
      {
        id: "start-galvanised",
        name: "Galvanised steel, starting values",
        note: `BD from K = 0.5 − 0.12 / (1 + r/t): the text-book K of medium-hard sheet at a sharp bend, 0.38, rising towards the middle of the sheet. Legs to the outer mould point, above 90° to the outermost tangent. ${REPLACE}`,
      },
      (t, r) => medium(r / t),
      "BD",
      [0.5, 0.6, 0.75, 0.8, 1, 1.2, 1.25, 1.5, 2, 2.5, 3],
    ),
    ratioChart("start-stainless", "Stainless steel, starting values", 0.4, "hard"),
    ratioChart("start-soft-aluminium", "Soft aluminium, starting values", 0.33, "soft"),
  ];
}

/** Materials to begin with; strengths are those of common grades. */
export function startingMaterials(): Material[] {
  const make = (
    id: string,
    name: string,
    [density, tensile, yieldStrength]: readonly [number, number, number],
    [across, along]: readonly [number, number],
    springback: number,
    radiusOverV: number,
  ): Material => ({
    id,
    name,
    note: "Values of a common grade; put in those of your own sheet.",
    density,
    tensile,
    yield: yieldStrength,
    leastRadiusAcross: across,
    leastRadiusAlong: along,
    springback,
    radiusOverV,
  });
  return [
    make("mild-steel", "Mild steel", [7850, 400, 250], [0.5, 1], 1, 0.16),
    make("galvanised", "Galvanised steel", [7850, 420, 280], [0.5, 1], 1.5, 0.16),
    make("stainless", "Stainless steel", [7900, 620, 290], [0.5, 1], 3, 0.21),
    make("soft-aluminium", "Soft aluminium", [2700, 215, 130], [0.5, 1], 1.5, 0.13),
  ];
}

const inch = (names: readonly (readonly [string, number])[]) =>
  names.map(([name, inches]) => ({ name, thickness: round(inches * 25.4, 4) }));

const METRIC = [0.5, 0.6, 0.75, 0.8, 1, 1.2, 1.25, 1.5, 1.75, 2, 2.5, 3, 4, 5, 6, 8];

/** The sheet gauges of four materials, in inches by trade tables. */
const SHEET_GAUGES: readonly GaugeList[] = [
  {
    id: "gauge-steel",
    name: "Sheet gauge, steel",
    note: "The usual sheet gauge of uncoated steel: 41.82 lb per square foot and inch.",
    rows: inch([
      ["7 ga", 0.1793],
      ["8 ga", 0.1644],
      ["10 ga", 0.1345],
      ["11 ga", 0.1196],
      ["12 ga", 0.1046],
      ["14 ga", 0.0747],
      ["16 ga", 0.0598],
      ["18 ga", 0.0478],
      ["20 ga", 0.0359],
      ["22 ga", 0.0299],
      ["24 ga", 0.0239],
      ["26 ga", 0.0179],
    ]),
  },
  {
    id: "gauge-galvanised",
    name: "Sheet gauge, galvanised",
    note: "The usual sheet gauge of galvanised steel, coating included.",
    rows: inch([
      ["8 ga", 0.1681],
      ["10 ga", 0.1382],
      ["11 ga", 0.1233],
      ["12 ga", 0.1084],
      ["14 ga", 0.0785],
      ["16 ga", 0.0635],
      ["18 ga", 0.0516],
      ["20 ga", 0.0396],
      ["22 ga", 0.0336],
      ["24 ga", 0.0276],
      ["26 ga", 0.0217],
    ]),
  },
  {
    id: "gauge-stainless",
    name: "Sheet gauge, stainless",
    note: "The usual sheet gauge of stainless steel.",
    rows: inch([
      ["8 ga", 0.1719],
      ["10 ga", 0.1406],
      ["11 ga", 0.125],
      ["12 ga", 0.1094],
      ["14 ga", 0.0781],
      ["16 ga", 0.0625],
      ["18 ga", 0.05],
      ["20 ga", 0.0375],
      ["22 ga", 0.0313],
      ["24 ga", 0.025],
      ["26 ga", 0.0188],
    ]),
  },
  {
    id: "gauge-aluminium",
    name: "Sheet gauge, aluminium",
    note: "The usual wire and sheet gauge of aluminium.",
    rows: inch([
      ["8 ga", 0.1285],
      ["10 ga", 0.1019],
      ["11 ga", 0.0907],
      ["12 ga", 0.0808],
      ["14 ga", 0.0641],
      ["16 ga", 0.0508],
      ["18 ga", 0.0403],
      ["20 ga", 0.032],
      ["22 ga", 0.0253],
      ["24 ga", 0.0201],
      ["26 ga", 0.0159],
    ]),
  },
];

/** The usual lists of thicknesses: metric, and the sheet gauges of four materials. */
export const gaugeLists = (): GaugeList[] => [
  {
    id: "metric",
    name: "Metric",
    note: "Thicknesses that sheet is commonly stocked in.",
    rows: METRIC.map((t) => ({ name: `${t} mm`, thickness: t })),
  },
  ...SHEET_GAUGES,
];

/** A library to begin with, where a shop has nothing of its own yet. */
export const startingLibrary = (): StockLibrary => ({
  ...emptyLibrary(),
  materials: startingMaterials(),
  gauges: gaugeLists(),
  charts: startingCharts(),
  rules: [
    { id: "shop-rules", name: "Shop rules", note: "As they are by default, until the shop puts in its own." },
  ],
  cards: [
    startingCard("Galvanised steel 1.5", "galvanised", "start-galvanised", 1.5, [1.5, 2]),
    startingCard("Mild steel 2", "mild-steel", "start-mild-steel", 2, [2, 3]),
    startingCard("Stainless steel 1.5", "stainless", "start-stainless", 1.5, [1.5, 2.5]),
    startingCard("Soft aluminium 2", "soft-aluminium", "start-soft-aluminium", 2, [2, 3]),
  ],
});

const startingCard = (
  name: string,
  material: string,
  chart: string,
  thickness: number,
  radii: readonly number[],
): StockCard => ({
  id: `card-${material}`,
  name,
  note: "",
  material,
  thickness,
  radii,
  chart,
  dies: [],
  relief: "square",
  reliefWidth: "1.5*t",
  reliefDepth: "t",
});

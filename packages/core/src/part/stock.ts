import { type ChartAnswer, kByChart, kByDin } from "../bend/chart-look-up.ts";
import {
  HEM_FORMS,
  HEM_RULES,
  type HemForm,
  type HemRule,
  kForHem,
  STARTING_HEM_K,
} from "../bend/hem-rule.ts";
import type { SourceLink } from "../bend/why-line.ts";
import {
  choice,
  type FieldProblem,
  type FieldSpec,
  type FieldValues,
  LONGEST_TEXT,
  type RawValues,
} from "../fields/field.ts";
import { evaluateFields } from "../fields/field-kinds.ts";
import { makeRelief, RELIEF_SHAPES } from "../steps/bend-values.ts";
import type { StockValues } from "../steps/step-kind.ts";
import { type CardSnapshot, hemValues } from "../stock/card-snapshot.ts";
import type { Material } from "../stock/library.ts";
import { evaluateExpression, NATURAL_RADIUS } from "../units/expression.ts";
import { formatShort } from "../units/quantity.ts";
import { mm } from "../units/spoken-length.ts";

const sized = (c: Readonly<Record<string, string>>) => c.relief === "square" || c.relief === "round";

/** How the flat length of a form of hem is found, as fields. */
function hemFields(form: HemForm): FieldSpec[] {
  const label = `${form[0].toUpperCase()}${form.slice(1)} hems`;
  const by = `${form}HemBy`;
  return [
    { kind: "choice", key: by, label: `${label} by`, default: "bends", options: HEM_RULES },
    {
      kind: "quantity",
      key: `${form}HemK`,
      label: `K of ${form} hems`,
      dimension: "number",
      default: formatShort(STARTING_HEM_K[form]),
      min: 0,
      max: 1,
      shown: (c) => c[by] === "K",
    },
    {
      kind: "quantity",
      key: `${form}HemBA`,
      label: `BA of ${form} hems`,
      dimension: "length",
      default: "t",
      above: 0,
      max: 1000,
      shown: (c) => c[by] === "BA",
    },
  ];
}

/** What the stock of a part says, as fields: the same machinery as a step's. */
export const STOCK_FIELDS: readonly FieldSpec[] = [
  {
    kind: "text",
    key: "material",
    label: "Material",
    default: "Galvanised steel",
    most: LONGEST_TEXT,
    room: "line",
  },
  {
    kind: "quantity",
    key: "density",
    label: "Density",
    dimension: "number",
    default: "7850",
    above: 0,
    max: 30000,
  },
  {
    kind: "quantity",
    key: "tensile",
    label: "Tensile strength",
    dimension: "number",
    default: "",
    optional: true,
    above: 0,
    max: 5000,
  },
  {
    kind: "quantity",
    key: "radiusOverV",
    label: "Radius over V-width",
    dimension: "number",
    default: "0.16",
    above: 0,
    max: 1,
  },
  {
    kind: "quantity",
    key: "thickness",
    label: "Thickness",
    dimension: "length",
    default: "1.5",
    above: 0,
    max: 50,
  },
  {
    kind: "quantity",
    key: "radius",
    label: "Inside radius",
    dimension: "length",
    default: "1.5",
    min: 0,
    max: 2000,
  },
  choice("flatBy", "Flat lengths by", "K", { K: "one K", "DIN 6935": "DIN 6935", card: "the card's chart" }),
  {
    kind: "quantity",
    key: "k",
    label: "K",
    dimension: "number",
    default: "0.42",
    min: -5,
    max: 5,
    shown: (c) => c.flatBy === "K",
  },
  { kind: "choice", key: "relief", label: "Bend relief", default: "square", options: RELIEF_SHAPES },
  {
    kind: "quantity",
    key: "reliefWidth",
    label: "Relief width",
    dimension: "length",
    default: "1.5*t",
    above: 0,
    max: 1000,
    shown: sized,
  },
  {
    kind: "quantity",
    key: "reliefDepth",
    label: "Relief depth",
    dimension: "length",
    default: "t",
    min: 0,
    max: 1000,
    shown: (c) => c.relief !== "none",
  },
  ...HEM_FORMS.flatMap(hemFields),
  choice(
    "grain",
    "Grain",
    "open",
    { open: "either way", x: "along X", y: "along Y" },
    {
      about: "how it is to lie in the blank, as modelled",
    },
  ),
  choice(
    "visibleSide",
    "Side that is seen",
    "open",
    { open: "either", A: "side A", B: "side B" },
    {
      about: "or that carries a film",
    },
  ),
  {
    kind: "text",
    key: "reason",
    label: "Why not by the card",
    default: "",
    most: LONGEST_TEXT,
    room: "line",
  },
];

/** What a part with a card may say otherwise; each is marked as an override. */
export const OVERRIDABLE: readonly string[] = [
  "radius",
  "flatBy",
  "k",
  "relief",
  "reliefWidth",
  "reliefDepth",
];

/** What is the part's own to say, whatever its card says. */
export const OWN_OF_PART: readonly string[] = ["grain", "visibleSide"];

/** Something about a stock that a person should know although it can be built with. */
export interface StockRemark {
  readonly level: "stop" | "warn" | "note";
  readonly field: string;
  readonly message: string;
}

export interface StockReading {
  readonly stock?: StockValues;
  readonly problems: readonly FieldProblem[];
  readonly remarks: readonly StockRemark[];
}

export const cardOf = (raw: RawValues): CardSnapshot | undefined => raw.card as CardSnapshot | undefined;

/** The material of the shop's library that an own stock points at, as it was taken over. */
export const materialOf = (raw: RawValues): Material | undefined =>
  raw.libraryMaterial as Material | undefined;

const materialValues = (material: Material | undefined): RawValues =>
  material
    ? {
        material: material.name,
        density: material.density,
        tensile: material.tensile,
        radiusOverV: material.radiusOverV,
      }
    : {};

/** The fields of a stock that a material of the library says. */
export const MATERIAL_FIELDS: readonly string[] = ["material", "density", "tensile", "radiusOverV"];

/** A part's stock as plain values: those of its card, with what the part says otherwise. */
export function stockRaw(raw: RawValues): RawValues {
  const card = cardOf(raw);
  if (!card) return { ...raw, ...materialValues(materialOf(raw)) };
  const own = Object.fromEntries(
    [...OVERRIDABLE, ...OWN_OF_PART, "reason"]
      .filter((key) => raw[key] !== undefined)
      .map((key) => [key, raw[key]]),
  );
  return {
    ...materialValues(card.material),
    thickness: card.thickness,
    radius: card.radii[0],
    flatBy: "card",
    relief: card.relief,
    reliefWidth: card.reliefWidth,
    reliefDepth: card.reliefDepth,
    ...hemValues(card),
    ...own,
  };
}

/** Whether an inside radius is one that a card allows. */
export const allowsRadius = (radii: readonly number[], radius: number): boolean =>
  radii.some((r) => Math.abs(r - radius) < 1e-6);

/** What a part says otherwise than its card: the fields, in their order. */
export function overridesOf(raw: RawValues): string[] {
  const card = cardOf(raw);
  if (!card) return [];
  return OVERRIDABLE.filter((key) => {
    if (raw[key] === undefined) return false;
    if (key !== "radius") return true;
    const plain = Number(raw[key]);
    return !(Number.isFinite(plain) && String(raw[key]).trim() !== "" && allowsRadius(card.radii, plain));
  });
}

// A stock's own short names for its thickness and radius, beside the long ones every field key gives.
const SHORT: Readonly<Record<string, string>> = {
  t: "thickness",
  r: "radius",
  K: "k",
  [NATURAL_RADIUS]: "radiusOverV",
};

const labelOf = (key: string) => STOCK_FIELDS.find((f) => f.key === key)?.label ?? key;
const dimensionOf = (key: string) => (key === "k" || key === "radiusOverV" ? "number" : "length");

function evaluateRaw(raw: RawValues): FieldValues {
  const share = evaluateExpression(String(raw.radiusOverV ?? 0.16), { dimension: "number" });
  const first = evaluateFields(
    STOCK_FIELDS,
    raw,
    // The radius may stand on the share of a V-width, which stands on nothing.
    (name) =>
      name === NATURAL_RADIUS && share.ok
        ? { ok: true, value: { value: share.value, dimension: "number" } }
        : undefined,
    [],
  );
  return evaluateFields(
    STOCK_FIELDS,
    raw,
    (name) => {
      const key = SHORT[name];
      if (key === undefined) return undefined;
      const value = first.quantities[key];
      if (value === undefined) return { ok: false, error: `${labelOf(key)} has no value` };
      return { ok: true, value: { value, dimension: dimensionOf(key) } };
    },
    Object.keys(SHORT),
  );
}

/** Evaluates a part's stock. With problems there is no stock to build with. */
export function evaluateStock(raw: RawValues): StockReading {
  const card = cardOf(raw);
  const material = card?.material ?? materialOf(raw);
  const values = evaluateRaw(stockRaw(raw));
  const problems = [...values.problems];
  const { k, thickness = 0, radius = 0, density = 0, tensile } = values.quantities;
  const { radiusOverV = 0.16, reliefWidth = 0, reliefDepth = 0 } = values.quantities;
  const { flatBy, grain, visibleSide, reason = "" } = values.choices;
  if (flatBy === "card" && !card)
    problems.push({ field: "flatBy", message: "Flat lengths by: there is no card. Pick one, or choose K." });
  if (k !== undefined && (k < 0 || k > 1) && reason.trim() === "")
    problems.push({
      field: "k",
      message: `K: ${formatShort(k, 4)} lies outside 0 to 1. Correct it, or say why it is meant in “${labelOf("reason")}”.`,
    });
  if (problems.length > 0) {
    // What only follows from a wrong thickness, radius or K would bury it.
    const roots = problems.filter((p) => Object.values(SHORT).includes(p.field));
    return { problems: roots.length > 0 ? roots : problems, remarks: [] };
  }
  const stock: StockValues = {
    thickness,
    radius,
    density,
    tensile,
    radiusOverV,
    relief: makeRelief(values.choices.relief, reliefWidth, reliefDepth),
    ...(card
      ? {
          radii: card.radii,
          ...(card.sheets && card.sheets.length > 0 ? { sheets: card.sheets } : {}),
        }
      : {}),
    ...(material
      ? { leastRadius: { along: material.leastRadiusAlong, across: material.leastRadiusAcross } }
      : {}),
    dies: card?.dies ?? [],
    ...(grain === "x" || grain === "y" ? { grain } : {}),
    ...(visibleSide === "A" || visibleSide === "B" ? { visibleSide } : {}),
    kOf: finder(values, card),
    kOfHem: hemFinder(values, card),
  };
  return { stock, problems: [], remarks: remarksOf(raw, values, card) };
}

function finder({ quantities, choices }: FieldValues, card: CardSnapshot | undefined): StockValues["kOf"] {
  const link: SourceLink = { to: "stock" };
  if (choices.flatBy === "card" && card) {
    const { chart } = card;
    return (shape) => withTestBends(kByChart(chart, shape), chart.testBends);
  }
  if (choices.flatBy === "DIN 6935") return (shape) => kByDin("DIN 6935", link, shape);
  const { k = 0 } = quantities;
  const lines = [{ text: `K = ${formatShort(k, 4)}`, source: "stock", link }];
  return () => ({ k, source: { label: "stock", lines, link } });
}

function hemFinder(values: FieldValues, card: CardSnapshot | undefined): StockValues["kOfHem"] {
  const { quantities: q, choices } = values;
  const kOf = finder(values, card);
  const from = card
    ? { name: card.name, link: { to: "card", id: card.id } as const }
    : { name: "stock", link: { to: "stock" } as const };
  const ruleOf = (form: HemForm): HemRule => {
    const by = choices[`${form}HemBy`];
    if (by === "K") return { by, k: q[`${form}HemK`] ?? 0 };
    return by === "BA" ? { by, allowance: q[`${form}HemBA`] ?? 0 } : { by: "bends" };
  };
  return (form, shape) => kForHem(form, ruleOf(form), shape, kOf(shape), from);
}

/** A chart that was made from test bends leads on to them. */
function withTestBends(answer: ChartAnswer, testBends: string | undefined): ChartAnswer {
  if (!testBends) return answer;
  const line = {
    text: "the chart was made from measured coupons",
    source: "test bends",
    link: { to: "test bends", id: testBends } as const,
  };
  return { ...answer, source: { ...answer.source, lines: [...answer.source.lines, line] } };
}

/** What a part says otherwise than its card, as a sentence. */
function overrideText(field: string, values: FieldValues, card: CardSnapshot): string {
  switch (field) {
    case "radius":
      return `Inside radius ${mm(values.quantities.radius ?? 0)} is not that of the card ${card.name}; it allows ${card.radii.map((r) => mm(r)).join(", ")}.`;
    case "flatBy":
    case "k": {
      const by =
        values.choices.flatBy === "K" ? `one K, ${formatShort(values.quantities.k ?? 0, 4)}` : "DIN 6935";
      return `Flat lengths are found by ${by}, not by the chart of the card ${card.name}.`;
    }
    default:
      return `The bend relief is not that of the card ${card.name}.`;
  }
}

function remarksOf(raw: RawValues, values: FieldValues, card: CardSnapshot | undefined): StockRemark[] {
  const { k } = values.quantities;
  const reason = values.choices.reason.trim();
  const remarks: StockRemark[] = [];
  if (k !== undefined && (k < 0 || k > 1))
    remarks.push({
      level: "warn",
      field: "k",
      message: `K ${formatShort(k, 4)} lies outside 0 to 1; it is meant: ${reason}.`,
    });
  if (!card) return remarks;
  const overrides = overridesOf(raw);
  for (const field of overrides) {
    // An expression may come to what the card allows; a K or a relief's size goes with what it belongs to.
    if (field === "radius" && allowsRadius(card.radii, values.quantities.radius ?? 0)) continue;
    if (field === "k" && overrides.includes("flatBy")) continue;
    if (field.startsWith("relief") && field !== overrides.find((f) => f.startsWith("relief"))) continue;
    remarks.push({
      level: reason ? "note" : "warn",
      field,
      message: `${overrideText(field, values, card)} ${reason ? `It is meant: ${reason}.` : `Say why in “${labelOf("reason")}”, or go back to the card.`}`,
    });
  }
  return remarks;
}

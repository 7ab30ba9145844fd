import { HEM_FORMS, HEM_RULES, type HemForm, STARTING_HEM_K } from "../bend/hem-rule.ts";
import { GRAINS, LEGS_MEASURED, MOST_COUPONS } from "../bend/test-bend.ts";
import type { FieldSpec } from "../fields/field.ts";
import { PRESET_FIELDS } from "./export-preset.ts";
import { FORM_FIELDS } from "./forms/form-item.ts";
import { HARDWARE_FIELDS } from "./hardware.ts";
import type { StockSection } from "./library.ts";
import { numberField } from "./number-field.ts";
import { SHOP_RULE_FIELDS } from "./shop-rule-set.ts";
import { STANDARD_OPENING_FIELDS } from "./standard-opening.ts";

const name: FieldSpec = {
  kind: "text",
  key: "name",
  label: "Name",
  default: "",
  most: 100,
  needed: true,
  room: "line",
};
const note: FieldSpec = { kind: "text", key: "note", label: "Note", default: "", most: 2000, room: "lines" };

const RELIEFS = [
  { value: "none", label: "no relief" },
  { value: "torn", label: "torn" },
  { value: "square", label: "square" },
  { value: "round", label: "round-ended" },
];

const words = (values: readonly string[]) => values.map((value) => ({ value, label: value }));

export const COUPON_FIELDS: readonly FieldSpec[] = [
  numberField("thickness", "Thickness", "length", 1.5, { above: 0, max: 50 }),
  numberField("radius", "Inside radius", "length", 1.5, { min: 0, max: 2000 }),
  numberField("angle", "Bend angle", "angle", 90, { above: 0, below: 360 }),
  numberField("before", "Length before", "length", 100, { above: 0, max: 20000 }),
  numberField("legA", "Leg A", "length", 50, { min: 0, max: 20000 }),
  numberField("legB", "Leg B", "length", 50, { min: 0, max: 20000 }),
  {
    kind: "choice",
    key: "measured",
    label: "Legs to the",
    default: "outer mould points",
    options: LEGS_MEASURED,
  },
  { kind: "text", key: "die", label: "Die", default: "", most: 60 },
  {
    kind: "choice",
    key: "grain",
    label: "Bend line to grain",
    default: "unknown",
    options: words(GRAINS),
  },
  { kind: "yes", key: "leftOut", label: "Left out" },
];

/** How a card finds the flat length of a form of hem. */
function hemFields(form: HemForm): FieldSpec[] {
  const by = `${form}HemBy`;
  const label = `${form[0].toUpperCase()}${form.slice(1)} hems`;
  return [
    { kind: "choice", key: by, label: `${label} by`, default: "bends", options: HEM_RULES, optional: true },
    numberField(`${form}HemK`, `K of ${form} hems`, "number", STARTING_HEM_K[form], {
      min: 0,
      max: 1,
      optional: true,
      shown: (c) => c[by] === "K",
    }),
    numberField(`${form}HemBA`, `BA of ${form} hems`, "length", 1.5, {
      above: 0,
      max: 1000,
      optional: true,
      shown: (c) => c[by] === "BA",
    }),
  ];
}

/** The fields of every kind of item but the bend chart, whose rule has a form of its own. */
export const ITEM_FIELDS: Readonly<Record<StockSection, readonly FieldSpec[]>> = {
  materials: [
    name,
    numberField("density", "Density", "number", 7850, { unit: "kg/m³", above: 0, max: 30000 }),
    numberField("tensile", "Tensile strength", "number", 400, { unit: "MPa", above: 0, max: 5000 }),
    numberField("yield", "Yield strength", "number", 250, { unit: "MPa", above: 0, max: 5000 }),
    numberField("leastRadiusAcross", "Least radius across the grain", "number", 0.5, {
      unit: "× t",
      min: 0,
      max: 50,
      about: "the bend line across the grain",
    }),
    numberField("leastRadiusAlong", "Least radius along the grain", "number", 1, {
      unit: "× t",
      min: 0,
      max: 50,
      about: "the bend line along the grain, where sheet cracks sooner",
    }),
    numberField("springback", "Springback of a square bend", "angle", 1.5, {
      min: 0,
      max: 45,
      about: "a hint; nothing is computed from it",
    }),
    numberField("radiusOverV", "Inside radius over V-width", "number", 0.16, {
      above: 0,
      max: 1,
      about: "what air bending over a V makes by itself",
    }),
    note,
  ],
  gauges: [
    name,
    note,
    {
      kind: "rows",
      key: "rows",
      label: "Thicknesses",
      noun: "thickness",
      most: 200,
      keyless: true,
      columns: [
        { kind: "text", key: "name", label: "Called", default: "", most: 40, needed: true },
        numberField("thickness", "Thickness", "length", 1, { above: 0, max: 50 }),
      ],
    },
  ],
  charts: [
    name,
    note,
    { kind: "yes", key: "starting", label: "Starting values" },
    {
      kind: "text",
      key: "reason",
      label: "Reason for a K outside 0 to 1",
      default: "",
      most: 300,
      room: "line",
    },
  ],
  dies: [
    name,
    numberField("v", "V-width", "length", 12, { above: 0, max: 500 }),
    numberField("angle", "Angle of the V", "angle", 86, { above: 0, below: 180 }),
    numberField("radius", "Shoulder radius", "length", 1, { min: 0, max: 100 }),
    numberField("length", "Length", "length", 1000, { above: 0, max: 20000 }),
    numberField("mostForce", "Most force", "number", 600, { unit: "kN/m", above: 0, max: 100000 }),
  ],
  testBends: [
    name,
    numberField("error", "Measuring error ±", "length", 0.05, {
      min: 0,
      max: 10,
      about: "what one measured length may be wrong by",
    }),
    note,
    {
      kind: "rows",
      key: "coupons",
      label: "Coupons",
      noun: "coupon",
      most: MOST_COUPONS,
      anew: ["leftOut"],
      columns: COUPON_FIELDS,
    },
  ],
  rules: [name, ...SHOP_RULE_FIELDS, note],
  outlines: [name, note],
  forms: [name, ...FORM_FIELDS, note],
  openings: [name, ...STANDARD_OPENING_FIELDS, note],
  hardware: [name, ...HARDWARE_FIELDS, note],
  groups: [name, note],
  presets: [name, ...PRESET_FIELDS, note],
  cards: [
    name,
    { kind: "refers", key: "material", label: "Material", section: "materials" },
    numberField("thickness", "Thickness", "length", 1.5, { above: 0, max: 50 }),
    {
      kind: "numbers",
      key: "radii",
      label: "Inside radii that are allowed",
      min: 0,
      max: 2000,
      most: 50,
      default: [1.5],
      about: "the first is taken unless a part says otherwise",
    },
    { kind: "refers", key: "chart", label: "Bend chart", section: "charts" },
    { kind: "refersMany", key: "dies", label: "Dies", section: "dies", most: 200 },
    { kind: "choice", key: "relief", label: "Bend relief", default: "square", options: RELIEFS },
    {
      kind: "text",
      key: "reliefWidth",
      label: "Relief width",
      default: "1.5*t",
      most: 100,
      needed: true,
      about: "may use t, r and K",
    },
    {
      kind: "text",
      key: "reliefDepth",
      label: "Relief depth",
      default: "t",
      most: 100,
      needed: true,
      about: "may use t, r and K",
    },
    ...HEM_FORMS.flatMap(hemFields),
    {
      kind: "rows",
      key: "sheets",
      label: "Sheets that are kept",
      noun: "sheet",
      most: 50,
      keyless: true,
      optional: true,
      about: "what a blank must fit on, and whether the grain lies along or across their length",
      columns: [
        numberField("length", "Length", "length", 2000, { above: 0, max: 20000 }),
        numberField("width", "Width", "length", 1000, { above: 0, max: 20000 }),
        {
          kind: "choice",
          key: "grain",
          label: "Grain",
          default: "along",
          options: [
            { value: "along", label: "along" },
            { value: "across", label: "across" },
            { value: "none", label: "none" },
          ],
        },
      ],
    },
    {
      kind: "refers",
      key: "rules",
      label: "Shop rules",
      section: "rules",
      optional: true,
      about: "what is asked of parts of this card",
    },
    note,
  ],
};

import type { NumberField, YesField } from "../fields/field.ts";

/** How grave a shop takes what a rule finds; `off`: it is not asked. */
export type RuleLevel = "off" | "note" | "warn" | "stop";
export const RULE_LEVELS: readonly RuleLevel[] = ["off", "note", "warn", "stop"];

/** A number that a rule asks for, or a yes or no (1 or 0), with where its default comes from. */
export type RuleValue = (NumberField | YesField) & {
  readonly default: number;
  /** The subject that the default is taken from. */
  readonly source: string;
};

/** What rules are about, in the order in which they are shown. */
export const RULE_GROUPS = [
  "Bending",
  "Reliefs",
  "Cutting",
  "Forming",
  "Collisions",
  "Handling",
  "Model",
] as const;

/** One question of manufacture that a shop may answer its own way. */
export interface ShopRule {
  readonly id: string;
  readonly group: (typeof RULE_GROUPS)[number];
  readonly title: string;
  /** What it asks, in a sentence. */
  readonly about: string;
  readonly level: RuleLevel;
  readonly values: readonly RuleValue[];
}

const value = (
  key: string,
  label: string,
  initial: number,
  source: string,
  limits: Partial<NumberField> = {},
): RuleValue => ({
  kind: "number",
  key,
  label,
  dimension: "length",
  default: initial,
  min: 0,
  max: 100_000,
  ...limits,
  source,
});

const yes = (key: string, label: string, source: string): RuleValue => ({
  kind: "yes",
  key,
  label,
  default: 0,
  source,
});

const timesT = { dimension: "number", unit: "× t", max: 100 } as const;
const degrees = { dimension: "number", unit: "°" } as const;
const positive = { above: 0, min: undefined } as const;

const CUTTING =
  "shop practice of laser cutting: what is narrower than the sheet is thick burns or breaks away";
const BENDING = "shop practice of air bending: nearer to the bend an opening is drawn out of shape";
const RELIEVING = "shop practice: metal that is pulled beside a bend tears, or bulges into it";
const HEMMING = "none: the tools that a shop has";

const BENDING_RULES: readonly Omit<ShopRule, "group">[] = [
  {
    id: "short-leg",
    title: "Legs long enough for the die",
    about:
      "Whether both legs of a bend lie on the shoulders of their die until it is finished, anywhere along the bend: openings, slanted and stepped edges count.",
    level: "warn",
    values: [
      value(
        "legSpare",
        "More than the geometry needs",
        0,
        "geometry: the leg still lies on the shoulder of the V",
        { max: 1000 },
      ),
    ],
  },
  {
    id: "close-bends",
    title: "Bends far enough from one another",
    about: "The same for two bends of one plate: the metal between them is the leg of both.",
    level: "warn",
    values: [],
  },
  {
    id: "deep-channel",
    title: "Channels and return legs the punch gets into",
    about:
      "A leg that is bent already swings towards the punch while the next bend of its plate is made; in the better of the two orders it must stay clear of it.",
    level: "warn",
    values: [
      value(
        "punchReach",
        "Punch, from its middle to its side",
        0,
        "shop practice: a leg as long as the plate is wide just clears a usual punch; a straight one is thicker, a cranked one gives way (below 0)",
        { min: -1000, max: 1000 },
      ),
    ],
  },
  {
    id: "opening-to-bend",
    title: "Openings far enough from bends",
    about: "Distance of an opening from the tangent line of a bend, beyond the bend's inside radius.",
    level: "warn",
    values: [
      value("openingToBend", "Openings: r plus", 2, BENDING, timesT),
      value("longOpening", "Long ones begin at", 25, BENDING, positive),
      value("longOpeningToBend", "Long openings: r plus", 2.5, BENDING, timesT),
    ],
  },
  {
    id: "opening-in-bend",
    title: "No opening in a bend",
    about: "Whether an opening lies in the metal that turns: it is drawn out of shape there.",
    level: "warn",
    values: [],
  },
  {
    id: "edge-beside-bend",
    title: "Edges clear of a bend beside them",
    about:
      "An edge of the plate that goes on beside a bend, neither at its line nor clear behind it, is drawn in when the bend is made.",
    level: "warn",
    values: [value("edgeBeside", "Behind the line", 0.5, RELIEVING, timesT)],
  },
  {
    id: "slanted-end",
    title: "Bends that end square",
    about: "A bend line that runs out on a slanted edge slips in the die, and its end is drawn out of shape.",
    level: "note",
    values: [
      value("mostSlant", "Off square by at most", 30, "shop practice: beyond it the end wants a relief", {
        ...degrees,
        max: 90,
      }),
    ],
  },
  {
    id: "acute-bend",
    title: "Bends no more acute than the dies",
    about: "A V bends no further than its own angle; hems are pressed, and are left out.",
    level: "warn",
    values: [
      value("overBend", "Springs back by", 0, "none: what the material springs back is bent further", {
        ...degrees,
        max: 45,
      }),
    ],
  },
  {
    id: "least-radius",
    title: "Radii that the material bears",
    about: "Inside radius against the least of the material, by how the bend line lies to the grain.",
    level: "warn",
    values: [],
  },
  {
    id: "grain-radius",
    title: "Radii that bear only one grain direction",
    about: "Where the part does not say how its grain lies: bends that must not lie along it.",
    level: "note",
    values: [],
  },
  {
    id: "card-radius",
    title: "Radii that the card allows",
    about: "A radius that a step gives by itself, and no reason why.",
    level: "warn",
    values: [],
  },
  {
    id: "outside-chart",
    title: "Bends within their chart",
    about: "A bend outside the chart has a flat length that nobody has measured.",
    level: "warn",
    values: [],
  },
  {
    id: "k-range",
    title: "K from 0 to 1",
    about: "What a chart says must lie within the sheet.",
    level: "warn",
    values: [],
  },
  {
    id: "long-bend",
    title: "Bends no longer than the brake",
    about: "From the first metal on a bend line to the last.",
    level: "stop",
    values: [
      value("brakeLength", "Length of the brake", 3000, "a common press brake; put in your own", positive),
    ],
  },
  {
    id: "die-force",
    title: "Force within the die's",
    about: "What a bend takes for each metre, against what its die bears.",
    level: "warn",
    values: [],
  },
  {
    id: "brake-force",
    title: "Force within the brake's",
    about: "What a bend takes in all, against what the brake gives.",
    level: "stop",
    values: [
      value("brakeForce", "Most force", 1000, "a common press brake; put in your own", {
        dimension: "number",
        unit: "kN",
        ...positive,
      }),
    ],
  },
  {
    id: "hem-kind",
    title: "Hems that the shop can make",
    about: "Each form of hem needs tools of its own.",
    level: "stop",
    values: [
      yes("noClosedHems", "No closed hems", HEMMING),
      yes("noOpenHems", "No open hems", HEMMING),
      yes("noTeardropHems", "No teardrop hems", HEMMING),
      yes("noRolledHems", "No rolled hems", HEMMING),
    ],
  },
  {
    id: "small-jog",
    title: "Jogs no smaller than their tool",
    about: "The step of a jog, from a face to the like one, against the least that the tool makes.",
    level: "warn",
    values: [
      value("leastJog", "Least step", 1, "shop practice: a jog tool steps by a thickness or more", timesT),
    ],
  },
];

const RELIEF_RULES: readonly Omit<ShopRule, "group">[] = [
  {
    id: "relief",
    title: "Reliefs beside bends",
    about: "A bend beside metal that stays flat tears there when nothing relieves it.",
    level: "warn",
    values: [],
  },
  {
    id: "small-relief",
    title: "Reliefs wide and deep enough",
    about: "Width along the bend, and depth behind the line where it begins; one that is torn has no width.",
    level: "warn",
    values: [
      value("reliefWidth", "Least width", 1, RELIEVING, timesT),
      value("reliefDepth", "Least depth", 0.5, RELIEVING, timesT),
    ],
  },
  {
    id: "idle-relief",
    title: "Reliefs in metal",
    about: "A relief beside a bend that lies where a later cut has taken the metal.",
    level: "note",
    values: [],
  },
  {
    id: "seam",
    title: "Bends joined all along",
    about: "A cut that reaches into the line of a bend leaves it hanging on less metal than it is wide.",
    level: "warn",
    values: [],
  },
  {
    id: "cut-free",
    title: "Bends that hang on something",
    about: "A bend that a cut parts from its plate altogether.",
    level: "stop",
    values: [],
  },
];

const CUTTING_RULES: readonly Omit<ShopRule, "group">[] = [
  {
    id: "small-opening",
    title: "Openings large enough to cut",
    about: "The least width of an opening against the thickness of the sheet.",
    level: "warn",
    values: [value("leastOpening", "Least width", 1, CUTTING, timesT)],
  },
  {
    id: "thin-web",
    title: "Webs wide enough to stand",
    about: "The metal between two openings, and between an opening and the outline.",
    level: "warn",
    values: [value("leastWeb", "Least width", 1, CUTTING, timesT)],
  },
  {
    id: "narrow-slit",
    title: "Slits as wide as the cut",
    about:
      "The air between two stretches of one outline: narrower than the cut is wide it cannot be left. Cuts of no width are made once, and are left out.",
    level: "warn",
    values: [value("kerf", "Width of the cut", 0.15, "fibre lasers in thin sheet", { max: 20 })],
  },
  {
    id: "short-line",
    title: "No shreds of outline",
    about: "Straight pieces and arcs of the blank so short that a machine stops at each of them.",
    level: "note",
    values: [
      value("shortestLine", "Shortest", 0.05, "controls of lasers join what is shorter", { max: 100 }),
    ],
  },
  {
    id: "sharp-inner",
    title: "Inner corners rounded",
    about: "Corners of openings and notches, where tools or paint need a radius.",
    level: "note",
    values: [
      value("innerRadius", "Least radius; 0 asks nothing", 0, "none: what tool or paint needs", {
        max: 1000,
      }),
    ],
  },
  {
    id: "overlap",
    title: "A blank that lies beside itself",
    about: "Metal that would have to lie over metal in the flat.",
    level: "stop",
    values: [],
  },
  {
    id: "sheet-size",
    title: "A blank that fits a sheet",
    about:
      "Against the sheets that the card keeps, turned whichever way the grain lets it; where it keeps none, nothing is asked.",
    level: "stop",
    values: [
      value("sheetRim", "Rim that stays", 5, "shop practice: clamps and burrs at the rim", { max: 1000 }),
    ],
  },
  {
    id: "grain",
    title: "Grain as the part wants it",
    about: "A blank that fits the card's sheets only across the grain that the part says.",
    level: "stop",
    values: [],
  },
];

const COLLISION_RULES: readonly Omit<ShopRule, "group">[] = [
  {
    id: "collision",
    title: "Nothing in one another, folded",
    about: "Plates and bends that share space when everything is folded.",
    level: "stop",
    values: [],
  },
  {
    id: "meets-on-the-way",
    title: "Nothing in one another, on the way",
    about: "What meets while all bends turn together, and is free at the end; told as a collision.",
    level: "warn",
    values: [],
  },
  {
    id: "turns-alone",
    title: "Bends that can be made last",
    about: "A bend that cannot be turned by itself while everything else stands folded.",
    level: "note",
    values: [],
  },
  {
    id: "tight-gap",
    title: "Gaps wide enough",
    about:
      "Between plates and bends that do not hang on one another, fully folded: room for paint, a weld or a hand. Metal that touches is meant to.",
    level: "warn",
    values: [value("leastGap", "Least gap; 0 asks nothing", 0, "none: what the finish needs", { max: 1000 })],
  },
  {
    id: "lone-sheet",
    title: "Sheets that touch",
    about: "Of a part of several sheets, one that is nowhere near another when folded.",
    level: "note",
    values: [
      value("sheetReach", "Near is within", 1, "a weld, a rivet or a paste bridges it", { max: 1000 }),
    ],
  },
];

const HANDLING_RULES: readonly Omit<ShopRule, "group">[] = [
  {
    id: "mass",
    title: "Light enough to lift",
    about: "The mass of the folded part, against what one person lifts.",
    level: "note",
    values: [
      value(
        "mostMass",
        "One person lifts",
        25,
        "occupational health: what one grown person lifts now and then",
        { dimension: "number", unit: "kg", ...positive },
      ),
    ],
  },
  {
    id: "both-ways",
    title: "Hands that cannot be mistaken",
    about:
      "A bend up and one down that are alike: bent the other way round the part is its mirror image. Where a side of the part is seen, also which bends press it into the die.",
    level: "note",
    values: [],
  },
  {
    id: "sharp-outer",
    title: "Outer corners rounded",
    about: "Corners of the outline that a hand can reach, as on a guard.",
    level: "off",
    values: [
      value("outerRadius", "Least radius", 2, "machine safety: corners that are touched are rounded", {
        max: 1000,
      }),
    ],
  },
];

const MODEL_RULES: readonly Omit<ShopRule, "group">[] = [
  {
    id: "idle-step",
    title: "Steps that do something",
    about: "A step after which the part is as before it.",
    level: "note",
    values: [],
  },
];

const FORMING_RULES: readonly Omit<ShopRule, "group">[] = [
  {
    id: "form-room",
    title: "Room for what is formed",
    about:
      "From what is formed out of a plate to its edges, openings and bends, and to the next shape: each form says how much its tool needs.",
    level: "warn",
    values: [
      value("formRoom", "Of the room that it needs", 1, "none: what the shop's own tools need", {
        dimension: "number",
        unit: "×",
        max: 10,
      }),
    ],
  },
  {
    id: "hardware-room",
    title: "Hardware that holds",
    about:
      "Whether the sheet is thick enough for what is set into it, and its middle far enough from edges, openings and bends, as the list of hardware says.",
    level: "warn",
    values: [],
  },
  {
    id: "form-thin",
    title: "Formed metal thick enough",
    about: "How thin stretched metal is on the steepest slope of what is formed; below that it tears.",
    level: "warn",
    values: [
      value(
        "formThin",
        "Least thickness",
        0.65,
        "uniform elongation of deep-drawing steels: a third or less",
        {
          ...timesT,
          max: 1,
        },
      ),
    ],
  },
];

const grouped = (group: ShopRule["group"], rules: readonly Omit<ShopRule, "group">[]): ShopRule[] =>
  rules.map((r) => ({ ...r, group }));

/** The rules whose numbers and levels a shop sets, in the order in which they are shown. */
export const SHOP_RULES: readonly ShopRule[] = [
  ...grouped("Bending", BENDING_RULES),
  ...grouped("Reliefs", RELIEF_RULES),
  ...grouped("Cutting", CUTTING_RULES),
  ...grouped("Forming", FORMING_RULES),
  ...grouped("Collisions", COLLISION_RULES),
  ...grouped("Handling", HANDLING_RULES),
  ...grouped("Model", MODEL_RULES),
];

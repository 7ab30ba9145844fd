import type { BendChart } from "../bend/chart.ts";
import type { HemForm } from "../bend/hem-rule.ts";
import type { TestBends } from "../bend/test-bend.ts";
import type { Die } from "../bend/tooling.ts";
import type { ExportPreset } from "./export-preset.ts";
import type { FormItem } from "./forms/form-item.ts";
import type { HardwareItem } from "./hardware.ts";
import type { KeptGroup } from "./kept-group.ts";
import type { KeptOutline } from "./kept-outline.ts";
import type { ShopRuleSet } from "./shop-rule-set.ts";
import type { StandardOpening } from "./standard-opening.ts";

/** What a sheet is made of. */
export interface Material {
  readonly id: string;
  readonly name: string;
  readonly note: string;
  /** kg/m³ */
  readonly density: number;
  /** Tensile and yield strength, MPa. */
  readonly tensile: number;
  readonly yield: number;
  /** Least inside radius over thickness, the bend line along and across the grain. */
  readonly leastRadiusAlong: number;
  readonly leastRadiusAcross: number;
  /** How far a square bend springs back, degrees: a hint, nothing is computed from it. */
  readonly springback: number;
  /** Inside radius of air bending over the V-width. */
  readonly radiusOverV: number;
}

/** Thicknesses by the names they are sold under. */
export interface GaugeList {
  readonly id: string;
  readonly name: string;
  readonly note: string;
  readonly rows: readonly { readonly name: string; readonly thickness: number }[];
}

/** A sheet as it is bought. Its grain lies along its length, or across it; `none` where the sheet has none. */
export interface SheetSize {
  readonly length: number;
  readonly width: number;
  readonly grain: "along" | "across" | "none";
}

/** Material, thickness, allowed inside radii, chart, dies and relief defaults in one. */
export interface StockCard {
  readonly id: string;
  readonly name: string;
  readonly note: string;
  readonly material: string;
  readonly thickness: number;
  /** The first one is taken unless a part says otherwise. */
  readonly radii: readonly number[];
  readonly chart: string;
  readonly dies: readonly string[];
  readonly relief: string;
  /** Expressions that may use t, r and K. */
  readonly reliefWidth: string;
  readonly reliefDepth: string;
  /** The sheets that are kept of it; any size where nothing is said. */
  readonly sheets?: readonly SheetSize[];
  /** The shop rules that parts of it are held to; those by default where none are named. */
  readonly rules?: string;
  /** How the flat length of each form of hem is found; as of every bend where nothing is said. */
  readonly closedHemBy?: string;
  readonly closedHemK?: number;
  readonly closedHemBA?: number;
  readonly openHemBy?: string;
  readonly openHemK?: number;
  readonly openHemBA?: number;
  readonly teardropHemBy?: string;
  readonly teardropHemK?: number;
  readonly teardropHemBA?: number;
}

/** What a card says of hems. */
export type HemValues = Pick<StockCard, `${HemForm}HemBy` | `${HemForm}HemK` | `${HemForm}HemBA`>;

/** Everything a shop says about its stock. */
export interface StockLibrary {
  readonly format: typeof LIBRARY_FORMAT;
  readonly version: number;
  readonly materials: readonly Material[];
  readonly gauges: readonly GaugeList[];
  readonly charts: readonly BendChart[];
  readonly dies: readonly Die[];
  readonly testBends: readonly TestBends[];
  readonly rules: readonly ShopRuleSet[];
  readonly outlines: readonly KeptOutline[];
  readonly forms: readonly FormItem[];
  readonly openings: readonly StandardOpening[];
  readonly hardware: readonly HardwareItem[];
  readonly groups: readonly KeptGroup[];
  readonly presets: readonly ExportPreset[];
  readonly cards: readonly StockCard[];
}

export const LIBRARY_FORMAT = "hillcrest-stock";
export const LIBRARY_VERSION = 1;
/** A library document may have at most this many bytes. */
export const LARGEST_LIBRARY = 40_000_000;

/** What each section of a library holds. */
export interface StockItems {
  readonly materials: Material;
  readonly gauges: GaugeList;
  readonly charts: BendChart;
  readonly dies: Die;
  readonly testBends: TestBends;
  readonly rules: ShopRuleSet;
  readonly outlines: KeptOutline;
  readonly forms: FormItem;
  readonly openings: StandardOpening;
  readonly hardware: HardwareItem;
  readonly groups: KeptGroup;
  readonly presets: ExportPreset;
  readonly cards: StockCard;
}

export type StockSection = keyof StockItems;
export type StockItem = StockItems[StockSection];

/** In the order in which they refer to each other. */
export const STOCK_SECTIONS: readonly StockSection[] = [
  "materials",
  "gauges",
  "testBends",
  "charts",
  "dies",
  "rules",
  "outlines",
  "forms",
  "openings",
  "hardware",
  "groups",
  "presets",
  "cards",
];

/** Sections that libraries of before have none of. */
export const LATER_SECTIONS: ReadonlySet<StockSection> = new Set([
  "rules",
  "outlines",
  "forms",
  "openings",
  "hardware",
  "groups",
  "presets",
]);

export const SECTION_NOUNS: Readonly<Record<StockSection, string>> = {
  materials: "material",
  gauges: "gauge list",
  charts: "bend chart",
  dies: "die",
  testBends: "set of test bends",
  rules: "set of shop rules",
  outlines: "kept outline",
  forms: "form",
  openings: "standard opening",
  hardware: "piece of hardware",
  groups: "kept group",
  presets: "export preset",
  cards: "stock card",
};

/** A library with nothing in it. */
export const emptyLibrary = (): StockLibrary => ({
  format: LIBRARY_FORMAT,
  version: LIBRARY_VERSION,
  materials: [],
  gauges: [],
  charts: [],
  dies: [],
  testBends: [],
  rules: [],
  outlines: [],
  forms: [],
  openings: [],
  hardware: [],
  groups: [],
  presets: [],
  cards: [],
});

/** One item of a section by its id. */
export const itemOf = <S extends StockSection>(
  library: StockLibrary,
  section: S,
  id: string,
): StockItems[S] | undefined => (library[section] as readonly StockItems[S][]).find((item) => item.id === id);

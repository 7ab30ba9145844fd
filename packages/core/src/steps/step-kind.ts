import type { BendShape } from "../bend/allowance.ts";
import type { ChartAnswer } from "../bend/chart-look-up.ts";
import type { HemForm } from "../bend/hem-rule.ts";
import type { Die } from "../bend/tooling.ts";
import type { FieldSpec, FieldValues, PickEntry, RawValues } from "../fields/field.ts";
import type { Backdrop } from "../outline/drawing/place.ts";
import type { Outline } from "../outline/outline.ts";
import type { OutlineRegions } from "../outline/regions.ts";
import type { SolvedOutline } from "../outline/solve.ts";
import type { Point } from "../plane/point.ts";
import { regionLoops } from "../plane/region.ts";
import type { OpenDraft, SheetDraft } from "../sheet/draft.ts";
import type { DraftPlate } from "../sheet/draft-pieces.ts";
import type { ReliefSpec } from "../sheet/growing/spec.ts";
import { BEND_EDGE } from "../sheet/pieces/borders.ts";
import type { EdgeSite } from "../sheet/pieces/flat-pieces.ts";
import { roleTitle } from "../sheet/role-title.ts";
import { shapeMetal } from "../sheet/shaping/metal.ts";
import { partsOfName } from "../sheet/sheet.ts";
import type { HardwareItem } from "../stock/hardware.ts";
import type { SheetSize } from "../stock/library.ts";

/** A piece of a step's sentence: plain words, or a field to show in place. */
export type SentencePart = string | { readonly field: string };

/** What the stock says to every step. Millimetres. */
export interface StockValues {
  readonly thickness: number;
  readonly radius: number;
  readonly density: number;
  readonly relief: ReliefSpec;
  /** Tensile strength in MPa, when it is known. */
  readonly tensile?: number;
  /** Inside radius of air bending over the V-width. */
  readonly radiusOverV: number;
  /** Least inside radius over thickness, by how the bend line lies to the grain. */
  readonly leastRadius?: { readonly along: number; readonly across: number };
  /** The inside radii that the card allows; any when there is no card. */
  readonly radii?: readonly number[];
  readonly dies: readonly Die[];
  /** Along which axis of the blank, as modelled, the grain is to lie; any when nothing is said. */
  readonly grain?: "x" | "y";
  /** The side that is seen when the part is in use, or that carries a film. */
  readonly visibleSide?: "A" | "B";
  /** The sheets that the shop keeps of it, mm; any size when it says none. */
  readonly sheets?: readonly SheetSize[];
  /** The neutral-axis ratio of a bend, and where it came from. */
  kOf(shape: BendShape): ChartAnswer;
  /** The same for a hem, which the stock may have its own rule for. */
  kOfHem(form: HemForm, shape: BendShape): ChartAnswer;
}

/** What a later step says about one bend, whichever step makes it. */
export interface BendEdit {
  readonly step: string;
  readonly radius?: number;
  readonly angle?: number;
  readonly k?: number;
  readonly allowance?: number;
  readonly deduction?: number;
  readonly reason?: string;
  readonly flip?: boolean;
  readonly reliefs?: { readonly left: ReliefSpec; readonly right: ReliefSpec };
}

/** An outline of the part: as it is solved, and the areas that its chains bound. */
export interface DrawnOutline {
  readonly key: string;
  readonly outline: Outline;
  readonly solved: SolvedOutline;
  readonly areas: OutlineRegions;
  /** What of the part is seen behind it, in its own frame, where a step has placed it. */
  readonly behind?: readonly Backdrop[];
  /** What it stands for in the part that is no longer there. */
  readonly lost?: readonly string[];
}

export interface StepContext {
  readonly step: string;
  readonly raw: RawValues;
  readonly stock: StockValues;
  readonly draft: OpenDraft;
  readonly letterOf: (plate: string) => string;
  readonly numberOf: (bend: string) => number;
  readonly editOf: (bend: string) => BendEdit | undefined;
  /** The step's values with some of them replaced, as for a pick that differs. */
  readonly valuesWith: (own: RawValues) => FieldValues;
  /** The sheet as it was before and after a step; nothing when that was not built. */
  readonly historyOf: (step: string) => StepHistory | undefined;
  /**
   * An outline of the part as it is solved, with its areas; nothing where there is none of this key. `behind`: what of the
   * part stands behind it where the step places it; what is drawn on that follows it.
   */
  readonly outlineOf: (key: string, behind?: () => readonly Backdrop[]) => DrawnOutline | undefined;
  /** Says why the step cannot do what it is asked. */
  readonly refuse: (field: string | undefined, message: string) => void;
  /** Says something about a step that is built all the same. */
  readonly warn: (field: string | undefined, message: string) => void;
  /** Tells a bend's section as it came out, edits of the bend included. */
  readonly cameOut: (section: BendSection) => void;
  /** Shows how a place was found. */
  readonly mark: (mark: PlaceMark) => void;
  /** Says something beside a field, which is neither wrong nor a warning. */
  readonly note: (field: string, message: string) => void;
  /** Says that something picked is not there, and what could be picked instead. */
  readonly lost: (field: string, pick: PickEntry) => void;
}

/** How a place on a plate is measured, to be drawn while its step is open. In the plate's own frame, mm. */
export interface PlaceMark {
  readonly plate: string;
  /** Where the distances count from. */
  readonly origin: Point;
  /** Whether the plate's own axes are drawn there. */
  readonly axes?: boolean;
  /** The lines that distances are measured from. */
  readonly datums: readonly (readonly [Point, Point])[];
  /** What is measured, in its direction, and the field that says it. */
  readonly dims: readonly { readonly from: Point; readonly to: Point; readonly field?: string }[];
}

/** A bend's section: its shape, how far its first tangent line stands behind the edge, and its straight leg. */
export interface BendSection {
  readonly shape: BendShape;
  readonly setback: number;
  readonly leg: number;
}

/** A piece of sheet in section: straight on (mm), or round a bend (radians, positive toward side B; inside radius). */
export type SectionPiece = { readonly length: number } | { readonly turn: number; readonly radius: number };

/** What a step would come out as with another choice: one bend in its section, or a strip with several. */
export type Outlook =
  | { readonly bend: BendSection; readonly up: boolean }
  | { readonly t: number; readonly pieces: readonly SectionPiece[] };

/** Outlooks by field, then by option. An option that cannot be built with the step's other values has none. */
export type Outlooks = Readonly<Record<string, Readonly<Record<string, Outlook>>>>;

export interface StepHistory {
  readonly before: SheetDraft;
  readonly after: SheetDraft;
}

/** Whether a piece of an edge is there because a step has cut it off, or an edge because a step has made it. */
export const isOwnPiece = (role: string, step: string): boolean =>
  role.startsWith(`${step}-`) ||
  // Most edges are whole: no pattern is made for them.
  (role.includes("@") && new RegExp(`@(.*[^A-Za-z0-9])?${step}([^A-Za-z0-9]|$)`).test(role));

/** Finds the edge that a pick names; when it is gone the step is told so. */
export function pickedEdge(
  context: StepContext,
  field: string,
  pick: PickEntry,
): { plate: DraftPlate; edge: EdgeSite } | undefined {
  const { plate: id, role } = partsOfName(pick.at);
  const plate = context.draft.pieces.plate(id);
  // A piece that only this step makes of an edge is not there yet: the whole edge is meant.
  const known = isOwnPiece(role, context.step) ? role.replace(/@.*$/, "") : role;
  const edge = plate?.edges.find((e) => e.role === role) ?? plate?.edges.find((e) => e.role === known);
  if (plate && edge) return { plate, edge };
  const why = whyNothingGrows(context, id, role);
  if (why) context.refuse(field, why);
  else context.lost(field, pick);
  return undefined;
}

/** Why nothing can be grown from an edge that is there; nothing where there is none of that name. */
function whyNothingGrows({ draft, letterOf }: StepContext, id: string, role: string): string | undefined {
  if (role.startsWith(BEND_EDGE) && draft.pieces.carrier(id))
    return "This is the side of a bend, and nothing can be grown from it. Pick a straight edge of a plate.";
  const plate = draft.pieces.plate(id);
  const borders = plate ? shapeMetal(plate.metal).regions.flatMap(regionLoops).flat() : [];
  return borders.some((c) => c.kind === "arc" && c.name === role)
    ? `Edge ${letterOf(id)} ${roleTitle(role)} is curved, and nothing can be grown from it. Pick a straight edge.`
    : undefined;
}

/** What a step makes otherwise than by a punch over a V, and what it cuts, as rules of manufacture ask for it. In mm. */
export interface StepWork {
  /** A hem, which is pressed or rolled: its form. */
  readonly hem?: string;
  /** A jog, which its tool makes at once: from a face to the like one. */
  readonly jog?: number;
  /** Notches where bends meet: how wide. */
  readonly notch?: number;
  /** The field that says so. */
  readonly field: string;
}

/** What a step starts from, for the menu of steps. */
export type StartsFrom = "nothing" | "edge" | "plate" | "bend" | "corner" | "part";

/** One kind of step: everything that the document, the build and the interface need to know about it. */
export interface StepKind {
  readonly kind: string;
  readonly title: string;
  readonly about: string;
  /** What must be picked first. */
  readonly startsFrom: StartsFrom;
  /** Whether a part that has begun may have another one that starts from nothing. */
  readonly again?: boolean;
  readonly fields: readonly FieldSpec[];
  /** Fields that it has besides, by what stands in those; see `fieldsOf`. */
  readonly more?: (raw: RawValues) => readonly FieldSpec[];
  readonly sentence: (raw: RawValues) => readonly SentencePart[];
  /** Names of the plates that it makes besides those of its picks, and which of them hang on a bend. */
  readonly makes?: (step: { readonly id: string } & RawValues) => readonly Made[];
  readonly build: (values: FieldValues, context: StepContext) => void;
  /** What the options of some of its choices would make of it. */
  readonly outlooks?: (values: FieldValues, stock: StockValues) => Outlooks;
  /** How something that the step has made, by its name, is left out of it again; nothing for what cannot be. */
  readonly leftOut?: (step: { readonly id: string } & RawValues, name: string) => LeavingOut | undefined;
  /** What is set into the openings that it cuts. */
  readonly sets?: (raw: RawValues) => HardwareItem | undefined;
  readonly work?: (values: FieldValues, stock: StockValues) => StepWork | undefined;
  /** What it says about bends of other steps; read before any step is built. */
  readonly editsBends?: (values: FieldValues, step: string) => readonly (readonly [string, BendEdit])[];
}

/** All fields of a step: those of its kind, and those that what stands in them brings along. */
export const fieldsOf = (kind: StepKind | undefined, raw: RawValues): readonly FieldSpec[] =>
  kind?.more ? [...kind.fields, ...kind.more(raw)] : (kind?.fields ?? []);

/** A row that is added to a table of the step, or one that is taken out of it. */
export type LeavingOut =
  | { readonly table: string; readonly add: Readonly<Record<string, string>> }
  | { readonly table: string; readonly remove: string };

export interface Made {
  readonly plate: string;
  readonly onBend: boolean;
}

/**
 * The outlook of every option of some choices of a step, from its values with that option chosen.
 *
 * @param outlook Reads what it is given at once and keeps nothing of it: the same record stands for every option.
 */
export function outlooksOf(
  fields: readonly FieldSpec[],
  keys: readonly string[],
  values: FieldValues,
  outlook: (values: FieldValues) => Outlook | undefined,
): Outlooks {
  const choices: Record<string, string> = { ...values.choices };
  const chosen: FieldValues = { ...values, choices };
  const out: Record<string, Record<string, Outlook>> = {};
  for (const key of keys) {
    const field = fields.find((f) => f.key === key);
    const found: Record<string, Outlook> = {};
    for (const { value } of field?.kind === "choice" ? field.options : []) {
      choices[key] = value;
      const one = outlook(chosen);
      if (one) found[value] = one;
    }
    choices[key] = values.choices[key];
    out[key] = found;
  }
  return out;
}

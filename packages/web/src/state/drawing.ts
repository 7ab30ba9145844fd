import {
  type DrawTool,
  drawInto,
  drawTool,
  evaluateExpression,
  freshKey,
  type Names,
  OUTLINE_FORMAT,
  OUTLINE_VERSION,
  type Outline,
  type PartOutline,
  type Place,
  patchBetween,
  putTool,
  renameDimension,
  standForTool,
  storedFrom,
  type TypedNumbers,
  type Units,
} from "@hillcrest/core";
import { drawingActions } from "./drawing-slice.ts";
import { edit, setPartValues } from "./edits.ts";
import { openPart } from "./part-slice.ts";
import { itemsNow } from "./stock-slice.ts";
import { type State, store, type Thunk } from "./store.ts";

const NONE: readonly PartOutline[] = [];

export const outlinesOf = (state: State): readonly PartOutline[] =>
  openPart(state).document?.outlines ?? NONE;

/** The outline that is being drawn; nothing while none is, or where an undo has taken it away. */
export const drawnNow = (state: State): Outline | undefined =>
  state.drawing.key === undefined
    ? undefined
    : outlinesOf(state).find((o) => o.key === state.drawing.key)?.outline;

export const setOutlines = (outlines: readonly PartOutline[], mark?: string): void =>
  setPartValues({ outlines: outlines.length > 0 ? outlines : undefined }, mark);

/** Puts an outline of the part in the place of the one with its key. `mark` joins quick changes into one undo step. */
export function putOutline(key: string, outline: Outline, mark?: string): void {
  const outlines = outlinesOf(store.getState());
  setOutlines(
    outlines.map((o) => (o.key === key ? { ...o, outline } : o)),
    mark,
  );
}

export const emptyOutline = (name: string): Outline => ({
  format: OUTLINE_FORMAT,
  version: OUTLINE_VERSION,
  name,
  points: {},
  curves: [],
  relations: [],
  dimensions: [],
});

/** A name for an outline that no other has. */
export function freshOutlineName(outlines: readonly PartOutline[]): string {
  const taken = new Set(outlines.map((o) => o.outline.name));
  for (let i = outlines.length + 1; ; i++) if (!taken.has(`Outline ${i}`)) return `Outline ${i}`;
}

/** A new outline beside the part's others, and the key that steps take it by. */
export function withNewOutline(outline?: Outline): { key: string; outlines: PartOutline[] } {
  const outlines = outlinesOf(store.getState());
  const key = freshKey(outlines);
  return {
    key,
    outlines: [...outlines, { key, outline: outline ?? emptyOutline(freshOutlineName(outlines)) }],
  };
}

/** What is typed for a tool, as numbers: what is empty is left to the pointer, what has a default stands at it. */
export function typedNumbers(
  tool: DrawTool,
  typed: Readonly<Record<string, string>>,
  units: Units,
  names: Names | undefined,
): Typed {
  const numbers: Record<string, { text: string; value: number }> = {};
  const wrong: Record<string, string> = {};
  for (const { key, dimension, default: other } of tool.values) {
    const text = typed[key]?.trim() ? typed[key] : undefined;
    if (text === undefined && other === undefined) continue;
    const stored = text === undefined ? other! : storedFrom(text, dimension, units, names);
    const result = evaluateExpression(stored, { dimension, names });
    if (result.ok) numbers[key] = { text: stored, value: result.value };
    else wrong[key] = result.error;
  }
  return { numbers, wrong };
}

const PUT = "put:";
const STAND = "stand:";

/** The name of the tool that lets a curve stand for something else of the part. */
export const standKind = (curve: string): string => `${STAND}${curve}`;

/** The name of the tool that puts a kept outline into the drawing. */
export const putKind = (id: string, mirrored: boolean): string =>
  `${PUT}${mirrored ? "mirrored" : "plain"}:${id}`;

/** A tool by its name; one that puts a kept outline in is made of what the shop's stock has. */
export function toolOf(stock: State["stock"], kind: string | undefined): DrawTool | undefined {
  if (kind?.startsWith(STAND)) return standForTool(kind, kind.slice(STAND.length));
  if (!kind?.startsWith(PUT)) return kind === undefined ? undefined : drawTool(kind);
  const [, way, id] = /^put:(\w+):(.*)$/.exec(kind) ?? [];
  const kept = itemsNow(stock, "outlines").find((i) => i.id === id);
  return kept && putTool(kind, { ...kept.outline, name: kept.name }, way === "mirrored");
}

/** Gives a dimension another name, and follows it through the part. */
export function nameDimension(key: string, id: string, name: string): void {
  const { document } = openPart(store.getState());
  if (document) edit(patchBetween(document, renameDimension(document, key, id, name)));
}

/** What is typed for a tool: its numbers, and what is wrong with those that are none. */
export interface Typed {
  readonly numbers: TypedNumbers;
  readonly wrong: Readonly<Record<string, string>>;
}

/** Gives the tool its next place; with the last one it draws. What is typed and is no number is never passed over. */
export const placeGiven =
  (place: Place, now: Outline, { numbers, wrong }: Typed): Thunk =>
  (send, getState) => {
    const { key, tool: kind, places, picks, construction, typed } = getState().drawing;
    const tool = toolOf(getState().stock, kind);
    if (key === undefined || !tool) return;
    const bad = tool.values.find((v) => wrong[v.key] !== undefined);
    if (bad) {
      send(drawingActions.refused(`${bad.label}: ${wrong[bad.key]}`));
      return;
    }
    const task = { places, typed: numbers, picks };
    const aimed = tool.aim?.(place, task, now) ?? place;
    const all = [...places, aimed];
    if (all.length < tool.stages.length) {
      send(drawingActions.placed(all));
      return;
    }
    const result = drawInto(now, tool, { ...task, places: all }, construction);
    if ("problem" in result) {
      send(drawingActions.refused(result.problem));
      return;
    }
    putOutline(key, result.outline);
    send(drawingActions.placed(result.next ? [result.next] : []));
    // What has a default stays for the next time; the rest belonged to what was drawn.
    const kept = Object.entries(typed).filter(
      ([k]) => tool.values.find((v) => v.key === k)?.default !== undefined,
    );
    send(drawingActions.typed(Object.fromEntries(kept)));
    if ((tool.onPicks && tool.kind !== "offset") || tool.kind.startsWith(STAND))
      send(drawingActions.toolChosen(undefined));
  };

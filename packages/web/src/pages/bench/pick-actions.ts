import {
  bendsOf,
  formatShort,
  isFollowed,
  type PartBuild,
  type PartDocument,
  type PickOf,
  picksIn,
  platesOf,
  rowsOf,
  sheetCorners,
  stepKind,
} from "@hillcrest/core";
import { addRow, appendSteps, keepStill, removeRow, stepOn, toggleHeld } from "../../state/edits.ts";
import { placeValues } from "../../state/placing.ts";
import { store } from "../../state/store.ts";
import { type Pick, viewActions } from "../../state/view-slice.ts";
import { focusFirstField, focusShown } from "../../steps/focus.ts";

/** Something that can be done with what is picked. */
export interface PickAction {
  readonly key: string;
  readonly label: string;
  readonly run: () => void;
}

const openStep = (id: string, field?: string) => {
  store.dispatch(viewActions.stepOpened(id));
  focusFirstField(id, field);
};

/** The step that cut an opening, by the opening's key; the table of a plate's own holes has none. */
const cutterOf = (key: string): string | undefined => /^(?:cut|opening):([A-Za-z]\w*)/.exec(key)?.[1];

/** The plate of a pick and the step that made it. */
function makerOf(pick: Pick, build: PartBuild): string | undefined {
  const sheet = build.sheet;
  const plate =
    pick.kind === "edge" || pick.kind === "corner"
      ? pick.name.slice(0, pick.name.indexOf("."))
      : pick.kind === "hole"
        ? pick.plate
        : pick.id;
  return platesOf(sheet).find((p) => p.id === plate)?.step;
}

/** What can be done with picks, each with its key, in the order of likely use. */
export function actionsFor(picks: readonly Pick[], build: PartBuild, document: PartDocument): PickAction[] {
  const pick = picks[0];
  if (!pick) return [];
  const maker = makerOf(pick, build);
  const change: PickAction[] =
    picks.length === 1 &&
    maker &&
    !isFollowed(
      document,
      document.steps.findIndex((s) => s.id === maker),
    )
      ? [
          {
            key: "E",
            label: "Edit its step",
            run: () => openStep(maker, pick.kind === "bend" ? "angle" : undefined),
          },
        ]
      : [];
  switch (pick.kind) {
    case "edge": {
      const one = picks.length === 1;
      return [
        grow("F", "flange", "edge", picks, "length"),
        grow("H", "hem", "edge", picks, "length"),
        grow("L", "lug", "edge", picks, "length"),
        ...(one
          ? [
              // What lies before the line, seen from the edge, is what one means to fold.
              grow("D", "fold", "edge", picks, "distance", { moves: "near" }),
              grow("J", "jog", "edge", picks, "distance"),
              grow("S", "split", "edge", picks, "distance"),
            ]
          : []),
        ...(one ? alike(pick, build) : []),
        ...change,
      ];
    }
    case "corner": {
      const corners = sheetCorners(build.sheet!);
      const corner = corners.find((c) => c.name === pick.name);
      if (corner?.of === "flanges")
        return [grow("X", "corner", "corner", picks, "gap", { which: "picked" }, "Close the corner")];
      return [
        grow("R", "round", "corner", picks, "radius", { which: "picked" }, "Round"),
        grow("C", "round", "corner", picks, "size", { which: "picked", form: "chamfer" }, "Chamfer"),
        ...(picks.length === 1 ? cornersAlike(maker, corners, build) : []),
      ];
    }
    case "plate": {
      const still = (document.anchor ?? platesOf(build.sheet)[0]?.id) === pick.id;
      return [
        { key: "O", label: "Round hole", run: () => holeOn(pick, build, document) },
        { key: "M", label: "Hole from edges", run: () => holeFromEdges(pick, build, document) },
        { key: "C", label: "Cut", run: () => cutAt(pick, build) },
        grow("R", "round", "plate", picks, "radius", { which: "plates" }, "Round its corners"),
        ...(still ? [] : [{ key: "A", label: "Keep still", run: () => keepStill(pick.id) }]),
        ...change,
      ];
    }
    case "bend": {
      const held = document.held?.includes(pick.id) ?? false;
      return [
        { key: "X", label: "Opening over it", run: () => openOver(pick.id, build) },
        { key: "H", label: held ? "Show folded" : "Show flat", run: () => toggleHeld(pick.id) },
        grow("C", "bend", "bend", picks, "angle", {}, "Change it"),
        ...change,
      ];
    }
    case "hole": {
      const cutter = document.steps.find((s) => s.id === cutterOf(pick.key));
      if (cutter) return [{ key: "E", label: "Edit", run: () => openStep(cutter.id) }];
      const step = document.steps.find((s) => s.id === maker);
      if (!step || !rowsOf(step, "holes").some((h) => h.key === pick.key)) return change;
      return [
        { key: "E", label: "Edit", run: () => focusHole(step.id, pick.key) },
        {
          key: "Delete",
          label: "Remove",
          run: () => {
            removeRow(step, "holes", pick.key);
            store.dispatch(viewActions.pickCleared());
          },
        },
      ];
    }
  }
}

/** The action that adds a step of a kind on what is picked, and puts the cursor into one of its values. */
function grow(
  key: string,
  kind: string,
  of: PickOf,
  picks: readonly Pick[],
  field: string,
  values: Readonly<Record<string, unknown>> = {},
  label = stepKind(kind)!.title,
): PickAction {
  const names = picks.flatMap((p) => {
    if (p.kind !== of) return [];
    return "name" in p ? [p.name] : "id" in p ? [p.id] : [];
  });
  return { key, label, run: () => focusFirstField(stepOn(stepKind(kind)!, of, names, values), field) };
}

/**
 * Makes an opening over a bend: three steps that lay it flat, cut, and let it fold again. It stands on the
 * middle of the bend; where the bend has been pierced already it still begins there.
 */
function openOver(bend: string, build: PartBuild): void {
  const sheet = build.sheet;
  const found = bendsOf(sheet).find((b) => b.id === bend);
  const plate = platesOf(sheet).find((p) => p.id === found?.parent);
  if (!found || !plate) return;
  const { origin, axis, out, width, allowance } = found;
  const [u, v] = [
    origin.x + axis.x * (width / 2) + out.x * (allowance / 2) - plate.frame.origin.x,
    origin.y + axis.y * (width / 2) + out.y * (allowance / 2) - plate.frame.origin.y,
  ];
  const { x } = plate.frame;
  const turned = Math.round(
    (Math.atan2(x.x * axis.y - x.y * axis.x, x.x * axis.x + x.y * axis.y) * 180) / Math.PI,
  );
  const picks = [{ key: "a", at: bend }];
  const size = Math.max(2, Math.round(Math.min(20, width / 3)));
  const cut = appendSteps([
    { kind: "hold", does: "hold", which: "picked", bends: picks },
    {
      kind: "cut",
      plate: [{ key: "a", at: plate.id }],
      form: "round",
      diameter: String(size),
      x: formatShort(u * x.x + v * x.y),
      y: formatShort(-u * x.y + v * x.x),
      ...(turned % 180 === 0 ? {} : { turned: String(turned) }),
    },
    { kind: "hold", does: "fold", which: "picked", bends: picks },
  ])[1];
  openStep(cut, "diameter");
}

/** Whether the step that made a plate can carry round holes that stand on this plate and on no other. */
function holesGo(document: PartDocument, maker: string | undefined): boolean {
  const index = document.steps.findIndex((s) => s.id === maker);
  const step = document.steps[index];
  if (!step || isFollowed(document, index)) return false;
  // The holes of a step that grows several walls stand on all of them.
  const walls = picksIn(step).reduce((sum, { field, picks }) => sum + (field.grows ? picks.length : 0), 0);
  return (
    walls <= 1 && step.kind !== "lug" && (stepKind(step.kind)?.fields.some((f) => f.key === "holes") ?? false)
  );
}

/** Picks all edges like one: the same edge of all walls of its step, or all free edges of its plate. */
function alike(pick: Extract<Pick, { kind: "edge" }>, build: PartBuild): PickAction[] {
  const { sheet } = build;
  const dot = pick.name.indexOf(".");
  const [id, role] = [pick.name.slice(0, dot), pick.name.slice(dot + 1)];
  const plate = platesOf(sheet).find((p) => p.id === id);
  if (!sheet || !plate) return [];
  const carrying = (p: string, r: string) => bendsOf(sheet).some((b) => b.parent === p && b.edge === r);
  const walls = platesOf(sheet).filter((p) => p.step === plate.step && p.edges.some((e) => e.role === role));
  const names =
    walls.length > 1
      ? walls.flatMap((p) => (carrying(p.id, role) ? [] : [`${p.id}.${role}`]))
      : plate.edges.flatMap((e) => (carrying(id, e.role) ? [] : [`${id}.${e.role}`]));
  if (names.length < 2) return [];
  const run = () => store.dispatch(viewActions.pickedAll(names.map((name) => ({ kind: "edge", name }))));
  return [{ key: "A", label: `All ${names.length} alike`, run }];
}

/** Picks all corners of the outline that the plates of one step have. */
function cornersAlike(
  maker: string | undefined,
  corners: ReturnType<typeof sheetCorners>,
  build: PartBuild,
): PickAction[] {
  const own = new Set(platesOf(build.sheet).flatMap((p) => (p.step === maker ? [p.id] : [])));
  const names = corners.flatMap((c) =>
    c.of === "outline" && own.has(c.name.slice(0, c.name.indexOf("."))) ? [c.name] : [],
  );
  if (names.length < 2) return [];
  const run = () => store.dispatch(viewActions.pickedAll(names.map((name) => ({ kind: "corner", name }))));
  return [{ key: "A", label: `All ${names.length} alike`, run }];
}

/** A round hole that keeps its distances from the two edges nearest to where the plate was picked. */
function holeFromEdges(
  pick: Extract<Pick, { kind: "plate" }>,
  build: PartBuild,
  document: PartDocument,
): void {
  store.dispatch(viewActions.placedChosen("edges"));
  const last = document.steps.findLast((s) => s.kind === "cut" && s.form === "round");
  // The size is most often that of the last one; the distances are not.
  const values = { form: "round", diameter: String(last?.diameter ?? "6") };
  cutAt(pick, build, values, last ? "off1" : "diameter");
}

/** A hole where the plate was picked: in the table of the plate's own step, or a step of its own. */
function holeOn(pick: Extract<Pick, { kind: "plate" }>, build: PartBuild, document: PartDocument): void {
  const maker = platesOf(build.sheet).find((p) => p.id === pick.id)?.step;
  const { placed } = store.getState().view;
  if (placed === "xy" && holesGo(document, maker)) {
    holeAt(pick, build, document);
    return;
  }
  const last = document.steps.findLast((s) => s.kind === "cut" && s.form === "round");
  cutAt(pick, build, { form: "round", diameter: String(last?.diameter ?? "6") }, "diameter");
}

/** An opening where the plate was picked, on the nearest whole millimetre of its own frame. */
function cutAt(
  pick: Extract<Pick, { kind: "plate" }>,
  build: PartBuild,
  values: Readonly<Record<string, unknown>> = {},
  field = "width",
): void {
  const plate = platesOf(build.sheet).find((p) => p.id === pick.id);
  if (!plate) return;
  const { origin, x } = plate.frame;
  const [du, dv] = [pick.x - origin.x, pick.y - origin.y];
  const at = { x: Math.round(du * x.x + dv * x.y), y: Math.round(-du * x.y + dv * x.x) };
  const place = placeValues(store.getState().view.placed, plate, at);
  const id = stepOn(stepKind("cut")!, "plate", [pick.id], { ...values, ...place });
  focusFirstField(id, field);
}

function focusHole(step: string, key: string): void {
  store.dispatch(viewActions.stepOpened(step));
  focusShown(`[data-step="${step}"] [data-hole="${key}"] input`);
}

/** A hole where the plate was picked, on the nearest whole millimetre. */
function holeAt(pick: Extract<Pick, { kind: "plate" }>, build: PartBuild, document: PartDocument): void {
  const plate = platesOf(build.sheet).find((p) => p.id === pick.id);
  const step = document.steps.find((s) => s.id === plate?.step);
  if (!plate || !step) return;
  const { origin, x } = plate.frame;
  const [du, dv] = [pick.x - origin.x, pick.y - origin.y];
  let along = du * x.x + dv * x.y;
  let up = -du * x.y + dv * x.x;
  const bend = bendsOf(build.sheet).find((b) => b.child === plate.id);
  // A flange's holes count from the outer mould line, which stands one setback before the leg.
  if (bend && bend.angle < Math.PI) up += Math.tan(bend.angle / 2) * (bend.radius + build.sheet!.t);
  along = Math.round(along);
  up = Math.round(up);
  const holes = rowsOf(step, "holes");
  const d = String(holes[holes.length - 1]?.d ?? "6");
  const key = addRow(step, "holes", { x: formatShort(along), y: formatShort(up), d });
  store.dispatch(viewActions.pickCleared());
  focusHole(step.id, key);
}

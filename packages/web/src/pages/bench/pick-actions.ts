import {
  formatShort,
  isFollowed,
  type PartBuild,
  type PartDocument,
  type PickOf,
  rowsOf,
  sheetCorners,
  stepKind,
} from "@hillcrest/core";
import { addRow, keepStill, removeRow, stepOn, toggleHeld } from "../../state/edits.ts";
import { store } from "../../state/store.ts";
import { type Pick, viewActions } from "../../state/view-slice.ts";
import { focusFirstField, focusShown } from "../../steps/add-step.tsx";

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

/** The plate of a pick and the step that made it. */
function makerOf(pick: Pick, build: PartBuild): string | undefined {
  const sheet = build.sheet;
  const plate =
    pick.kind === "edge" || pick.kind === "corner"
      ? pick.name.slice(0, pick.name.indexOf("."))
      : pick.kind === "hole"
        ? pick.plate
        : pick.id;
  return sheet?.plates.find((p) => p.id === plate)?.step;
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
        grow("L", "lip", "edge", picks, "width"),
        ...(one
          ? [
              grow("D", "fold", "edge", picks, "distance"),
              grow("J", "jog", "edge", picks, "distance"),
              grow("S", "split", "edge", picks, "distance"),
            ]
          : []),
        ...change,
      ];
    }
    case "corner": {
      const corner = sheetCorners(build.sheet!).find((c) => c.name === pick.name);
      if (corner?.of === "flanges")
        return [grow("X", "corner", "corner", picks, "gap", { which: "picked" }, "Close the corner")];
      return [
        grow("R", "round", "corner", picks, "radius", { which: "picked" }, "Round"),
        grow("C", "round", "corner", picks, "size", { which: "picked", form: "chamfer" }, "Chamfer"),
      ];
    }
    case "plate": {
      const still = (document.anchor ?? build.sheet?.plates[0]?.id) === pick.id;
      return [
        ...(holesGo(document, maker)
          ? [{ key: "O", label: "Round hole", run: () => holeAt(pick, build, document) }]
          : []),
        { key: "C", label: "Cut", run: () => cutAt(pick, build) },
        grow("R", "round", "plate", picks, "radius", { which: "plates" }, "Round its corners"),
        ...(still ? [] : [{ key: "A", label: "Keep still", run: () => keepStill(pick.id) }]),
        ...change,
      ];
    }
    case "bend": {
      const held = document.held?.includes(pick.id) ?? false;
      return [
        { key: "H", label: held ? "Let it fold" : "Hold flat", run: () => toggleHeld(pick.id) },
        grow("C", "bend", "bend", picks, "angle", {}, "Change it"),
        ...change,
      ];
    }
    case "hole": {
      const step = document.steps.find((s) => s.id === maker);
      if (!step) return change;
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

/** Whether the step that made a plate can carry round holes of its own. */
const holesGo = (document: PartDocument, maker: string | undefined): boolean => {
  if (
    isFollowed(
      document,
      document.steps.findIndex((s) => s.id === maker),
    )
  )
    return false;
  const kind = document.steps.find((s) => s.id === maker)?.kind;
  return stepKind(kind ?? "")?.fields.some((f) => f.key === "holes" && kind !== "lip") ?? false;
};

/** An opening where the plate was picked, on the nearest whole millimetre of its own frame. */
function cutAt(pick: Extract<Pick, { kind: "plate" }>, build: PartBuild): void {
  const plate = build.sheet?.plates.find((p) => p.id === pick.id);
  if (!plate) return;
  const { origin, x } = plate.frame;
  const [du, dv] = [pick.x - origin.x, pick.y - origin.y];
  const at = [du * x.x + dv * x.y, -du * x.y + dv * x.x].map((v) => formatShort(Math.round(v)));
  const id = stepOn(stepKind("cut")!, "plate", [pick.id], { x: at[0], y: at[1] });
  focusFirstField(id, "width");
}

function focusHole(step: string, key: string): void {
  store.dispatch(viewActions.stepOpened(step));
  focusShown(`[data-step="${step}"] [data-hole="${key}"] input`);
}

/** A hole where the plate was picked, on the nearest whole millimetre. */
function holeAt(pick: Extract<Pick, { kind: "plate" }>, build: PartBuild, document: PartDocument): void {
  const plate = build.sheet?.plates.find((p) => p.id === pick.id);
  const step = document.steps.find((s) => s.id === plate?.step);
  if (!plate || !step) return;
  const { origin, x } = plate.frame;
  const [du, dv] = [pick.x - origin.x, pick.y - origin.y];
  let along = du * x.x + dv * x.y;
  let up = -du * x.y + dv * x.x;
  const bend = build.sheet?.bends.find((b) => b.child === plate.id);
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

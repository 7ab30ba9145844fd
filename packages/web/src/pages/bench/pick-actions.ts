import { formatShort, holesOf, type PartBuild, type PartDocument } from "@hillcrest/core";
import { addHole, flangeOn, keepStill, removeHole, toggleHeld } from "../../state/edits.ts";
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
    pick.kind === "edge"
      ? pick.name.slice(0, pick.name.lastIndexOf("."))
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
    picks.length === 1 && maker
      ? [
          {
            key: "E",
            label: "Edit its step",
            run: () => openStep(maker, pick.kind === "bend" ? "angle" : undefined),
          },
        ]
      : [];
  switch (pick.kind) {
    case "edge":
      return [{ key: "F", label: "Flange", run: () => growFlange(picks) }, ...change];
    case "plate": {
      const still = (document.anchor ?? build.sheet?.plates[0]?.id) === pick.id;
      return [
        { key: "O", label: "Round hole", run: () => holeAt(pick, build, document) },
        ...(still ? [] : [{ key: "A", label: "Keep still", run: () => keepStill(pick.id) }]),
        ...change,
      ];
    }
    case "bend": {
      const held = document.held?.includes(pick.id) ?? false;
      return [
        { key: "H", label: held ? "Let it fold" : "Hold flat", run: () => toggleHeld(pick.id) },
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
            removeHole(step, pick.key);
            store.dispatch(viewActions.pickCleared());
          },
        },
      ];
    }
  }
}

function growFlange(picks: readonly Pick[]): void {
  const id = flangeOn(picks.flatMap((p) => (p.kind === "edge" ? [p.name] : [])));
  focusFirstField(id, "length");
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
  const holes = holesOf(step);
  addHole(step, formatShort(along), formatShort(up), String(holes[holes.length - 1]?.d ?? "6"));
  const added = store.getState().part.document?.steps.find((s) => s.id === step.id);
  const key = added && holesOf(added).at(-1)?.key;
  store.dispatch(viewActions.pickCleared());
  if (key) focusHole(step.id, key);
}

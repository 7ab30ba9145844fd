import { freshKey, ontoPlate, type PartOutline, type StepDocument, stepKind } from "@hillcrest/core";
import { useEffect } from "react";
import { openBuild } from "../../../state/build-slice.ts";
import { outlinesOf } from "../../../state/drawing.ts";
import { edit } from "../../../state/edits.ts";
import { saveFile } from "../../../state/exporting.ts";
import { openPart, partActions } from "../../../state/part-slice.ts";
import { pointing } from "../../../state/pointing.ts";
import { type State, type Thunk, useSend } from "../../../state/store.ts";
import { type Facing, type Views, viewActions } from "../../../state/view-slice.ts";
import { addStepOf } from "../../../steps/column/add-step.tsx";
import { usualPlace } from "../../../steps/cut-actions.ts";
import { focusFirstField, focusViews, isControl, keysAreFree, takesText } from "../../../ui/focus.ts";
import { runFold } from "../../../views/folded/fold-dial.tsx";
import { stepFinding } from "../drawer/findings.tsx";
import { actionsFor, placingOn } from "../picking/pick-actions.ts";

const FACINGS: Readonly<Record<string, Facing>> = {
  f: "front",
  t: "top",
  r: "right",
  i: "oblique",
  z: "fit",
};
const VIEWS: Readonly<Record<string, Views>> = { "1": "folded", "2": "both", "3": "blank" };

/** The Bench's keys. What is picked has its keys first; the views' keys come after. */
export function useBenchKeys(): void {
  const send = useSend();
  useEffect(() => {
    const listen = (e: KeyboardEvent) => {
      if (e.defaultPrevented || document.querySelector("[role=dialog][data-state=open]")) return;
      if (send(keyPressed(e))) e.preventDefault();
    };
    const before = (e: KeyboardEvent) => {
      const moved = pointing.hasMoved;
      pointing.keyPressed();
      // Whoever has typed a number and then points at a place means that place, not one more letter of the number.
      const number = e.target instanceof Element && e.target.matches("[data-step] input[data-quantity]");
      if (document.querySelector("[role=dialog][data-state=open]")) return;
      if (!number || !moved || e.ctrlKey || e.metaKey || e.altKey || !send(pointedKeys(e))) return;
      e.preventDefault();
      e.stopPropagation();
    };
    window.addEventListener("keydown", before, true);
    window.addEventListener("keydown", listen);
    return () => {
      window.removeEventListener("keydown", before, true);
      window.removeEventListener("keydown", listen);
    };
  }, [send]);
}

/** Does what a key asks for; says whether it asked for anything. */
const keyPressed =
  (e: KeyboardEvent): Thunk<boolean> =>
  (send, getState) => {
    if ((e.ctrlKey || e.metaKey) && send(command(e))) return true;
    // A key of its own, so that it goes also while a field has the focus.
    if (e.key === "F8") {
      send(stepFinding(e.shiftKey ? -1 : 1));
      return true;
    }
    if (e.ctrlKey || e.metaKey || e.altKey || takesText(e.target)) return false;
    if (send(endKeys(e))) return true;
    // Whoever points at something in a view means that, and not the step that is open.
    if (send(pointedKeys(e))) return true;
    return keysAreFree(getState().view.openStep !== undefined) && (send(pickKeys(e)) || send(viewKeys(e)));
  };

const command =
  (e: KeyboardEvent): Thunk<boolean> =>
  (send) => {
    const key = e.key.toLowerCase();
    if (key === "z" && !takesText(e.target)) send(e.shiftKey ? partActions.redone() : partActions.undone());
    else if (key === "y" && !takesText(e.target)) send(partActions.redone());
    else if (key === "c" && !takesText(e.target) && !String(getSelection())) return send(carrySteps());
    else if (key === "v" && !takesText(e.target)) return send(putSteps());
    else if (key === "e") void send(saveFile("dxf"));
    else if (key !== "s") return false;
    // Ctrl + S is only swallowed: everything saves by itself.
    return true;
  };

const CARRIED = "hillcrest:carried";

/** Steps on their way to another place, with the outlines that they are drawn by. */
interface Carried {
  readonly steps: readonly StepDocument[];
  readonly outlines: readonly PartOutline[];
}

/** Takes the open step along, so that it can be put into another part. */
const carrySteps = (): Thunk<boolean> => (_send, getState) => {
  const { openStep } = getState().view;
  const step = openPart(getState()).document?.steps.find((s) => s.id === openStep);
  if (!step) return false;
  // What it stands on in this part comes along by name; where the other part has it too, it is kept.
  try {
    // The outline that it is drawn by goes along: the other part has none of it.
    const outline = outlinesOf(getState()).find((o) => o.key === step.drawn);
    localStorage.setItem(CARRIED, JSON.stringify({ steps: [step], outlines: outline ? [outline] : [] }));
  } catch {
    // A browser that keeps nothing carries nothing; the step itself is untouched.
    return false;
  }
  return true;
};

/** The plate that somebody points at, or has picked; none where it is neither. */
function meantPlate(state: State): string | undefined {
  const pointed = pointing.now()?.pick;
  const pick = pointed?.kind === "plate" ? pointed : state.view.picks[0];
  return pick?.kind === "plate" ? pick.id : undefined;
}

const putSteps = (): Thunk<boolean> => (send, getState) => {
  const text = localStorage.getItem(CARRIED);
  if (!text || !openPart(getState()).document) return false;
  const carried = JSON.parse(text) as Carried;
  const outlines = [...outlinesOf(getState())];
  const keys = new Map<string, string>();
  for (const { key, ...rest } of carried.outlines) {
    // In the part that it comes from it is there already.
    const same = outlines.find(
      (o) => o.key === key && JSON.stringify(o.outline) === JSON.stringify(rest.outline),
    );
    const own = same?.key ?? freshKey(outlines);
    keys.set(key, own);
    if (!same) outlines.push({ key: own, ...rest });
  }
  const sheet = openBuild(getState()).shown?.build.sheet;
  const plate = meantPlate(getState());
  const steps = carried.steps.map((s) => {
    const there = sheet && plate !== undefined ? ontoPlate(s, sheet, plate) : s;
    return typeof there.drawn === "string" && keys.has(there.drawn)
      ? { ...there, drawn: keys.get(there.drawn)! }
      : there;
  });
  const more = outlines.length > outlinesOf(getState()).length;
  edit({
    do: "several",
    commands: [...(more ? [{ do: "part" as const, values: { outlines } }] : []), { do: "paste", steps }],
  });
  const last = openPart(getState()).document?.steps.at(-1);
  if (last) send(viewActions.stepOpened(last.id));
  return true;
};

/** Escape ends what was begun last; Enter ends picking and goes on to the step's first value. */
const endKeys =
  (e: KeyboardEvent): Thunk<boolean> =>
  (send, getState) => {
    const { pickingFor, measured } = getState().view;
    if (e.key === "Escape") {
      if (pickingFor) send(viewActions.pickingStarted(undefined));
      else if (measured.length === 1) send(viewActions.measuringDropped());
      else {
        send(viewActions.pickingStarted(undefined));
        send(viewActions.stepOpened(undefined));
        focusViews();
      }
      return true;
    }
    const onOther = isControl(e.target) && !(e.target as Element).closest("[data-pick-more]");
    if (e.key !== "Enter" || !pickingFor || onOther) return false;
    send(viewActions.pickingStarted(undefined));
    focusFirstField(pickingFor.step);
    return true;
  };

/**
 * What is pointed at takes the keys of what can be placed on it, there where it is pointed at. Where something else is picked,
 * the keys are that one's.
 */
const pointedKeys =
  (e: KeyboardEvent): Thunk<boolean> =>
  (send, getState) => {
    const { picks, pickingFor } = getState().view;
    const { shown } = openBuild(getState());
    const { document } = openPart(getState());
    if (pickingFor || e.key.length !== 1 || !shown?.build.sheet || !document) return false;
    const pointed = pointing.now();
    if (pointed?.pick.kind !== "plate") return false;
    const { pick, mmPerPx } = pointed;
    if (picks.some((p) => p.kind !== "plate")) return false;
    const action = placingOn({ ...pick, mmPerPx }, shown.build, document).find(
      (a) => a.key.toLowerCase() === e.key.toLowerCase(),
    );
    if (action) send(action.run);
    return action !== undefined;
  };

const pickKeys =
  (e: KeyboardEvent): Thunk<boolean> =>
  (send, getState) => {
    const { picks } = getState().view;
    const { shown } = openBuild(getState());
    const { document } = openPart(getState());
    if (!shown || !document) return false;
    const usual = picks.length === 0 ? usualPlace(shown.build) : undefined;
    const actions = usual
      ? placingOn(usual, shown.build, document)
      : actionsFor(picks, shown.build, document);
    const action = actions.find((a) => a.key.toLowerCase() === e.key.toLowerCase());
    if (action) send(action.run);
    return action !== undefined;
  };

const viewKeys =
  (e: KeyboardEvent): Thunk<boolean> =>
  (send, getState) => {
    const key = e.key.toLowerCase();
    const empty = openPart(getState()).document?.steps.length === 0;
    if (FACINGS[key]) send(viewActions.facingChosen(FACINGS[key]));
    else if (VIEWS[key]) {
      // What has the focus may go with its view: the keys stay with the views that are left.
      focusViews();
      send(viewActions.viewsChosen(VIEWS[key]));
    } else if (key === "l") send(viewActions.lettersToggled());
    else if (key === "b") send(viewActions.drawerChosen("bends"));
    else if (key === "p" && empty) send(addStepOf(stepKind("plate")!));
    else if (key === " " && !isControl(e.target)) send(runFold(getState().view.fold > 0.5 ? 0 : 1));
    else return false;
    return true;
  };

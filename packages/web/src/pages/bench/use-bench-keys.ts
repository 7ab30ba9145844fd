import { stepKind } from "@hillcrest/core";
import { useEffect } from "react";
import { edit } from "../../state/edits.ts";
import { partActions } from "../../state/part-slice.ts";
import { store } from "../../state/store.ts";
import { type Facing, type Views, viewActions } from "../../state/view-slice.ts";
import { addStepOf } from "../../steps/add-step.tsx";
import { focusFirstField, focusViews, isControl, keysAreFree, takesText } from "../../ui/focus.ts";
import { runFold } from "../../views/folded/fold-dial.tsx";
import { actionsFor } from "./pick-actions.ts";
import { saveDxf } from "./save-files.tsx";

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
  useEffect(() => {
    const listen = (e: KeyboardEvent) => {
      if (e.defaultPrevented || document.querySelector("[role=dialog][data-state=open]")) return;
      if ((e.ctrlKey || e.metaKey) && command(e)) return e.preventDefault();
      if (e.ctrlKey || e.metaKey || e.altKey || takesText(e.target)) return;
      if (endKeys(e)) return e.preventDefault();
      const stepIsOpen = store.getState().view.openStep !== undefined;
      if (keysAreFree(stepIsOpen) && (pickKeys(e) || viewKeys(e))) e.preventDefault();
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, []);
}

function command(e: KeyboardEvent): boolean {
  const key = e.key.toLowerCase();
  if (key === "z" && !takesText(e.target))
    store.dispatch(e.shiftKey ? partActions.redone() : partActions.undone());
  else if (key === "y" && !takesText(e.target)) store.dispatch(partActions.redone());
  else if (key === "c" && !takesText(e.target) && !String(getSelection())) return carrySteps();
  else if (key === "v" && !takesText(e.target)) return putSteps();
  else if (key === "e") saveDxf();
  else if (key !== "s") return false;
  // Ctrl + S is only swallowed: everything saves by itself.
  return true;
}

const CARRIED = "hillcrest:carried-steps";

/** Takes the open step along, so that it can be put into another part. */
function carrySteps(): boolean {
  const { view, part } = store.getState();
  const step = part.document?.steps.find((s) => s.id === view.openStep);
  if (!step) return false;
  // What it stands on in this part comes along by name; where the other part has it too, it is kept.
  try {
    localStorage.setItem(CARRIED, JSON.stringify([step]));
  } catch {
    // A browser that keeps nothing carries nothing; the step itself is untouched.
    return false;
  }
  return true;
}

function putSteps(): boolean {
  const text = localStorage.getItem(CARRIED);
  if (!text || !store.getState().part.document) return false;
  edit({ do: "paste", steps: JSON.parse(text) });
  const last = store.getState().part.document?.steps.at(-1);
  if (last) store.dispatch(viewActions.stepOpened(last.id));
  return true;
}

/** Escape ends what was begun last; Enter ends picking and goes on to the step's first value. */
function endKeys(e: KeyboardEvent): boolean {
  const { pickingFor, measured } = store.getState().view;
  const send = store.dispatch;
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
}

function pickKeys(e: KeyboardEvent): boolean {
  const { view, build, part } = store.getState();
  if (view.picks.length === 0 || !build.shown || !part.document) return false;
  const action = actionsFor(view.picks, build.shown.build, part.document).find(
    (a) => a.key.toLowerCase() === e.key.toLowerCase(),
  );
  action?.run();
  return action !== undefined;
}

function viewKeys(e: KeyboardEvent): boolean {
  const key = e.key.toLowerCase();
  if (FACINGS[key]) store.dispatch(viewActions.facingChosen(FACINGS[key]));
  else if (VIEWS[key]) {
    // What has the focus may go with its view: the keys stay with the views that are left.
    focusViews();
    store.dispatch(viewActions.viewsChosen(VIEWS[key]));
  } else if (key === "l") store.dispatch(viewActions.lettersToggled());
  else if (key === "b") store.dispatch(viewActions.drawerChosen("bends"));
  else if (key === "p" && store.getState().part.document?.steps.length === 0) addStepOf(stepKind("plate")!);
  else if (key === " " && !isControl(e.target)) runFold(store.getState().view.fold > 0.5 ? 0 : 1);
  else return false;
  return true;
}

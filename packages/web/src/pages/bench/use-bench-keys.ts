import { pasteSteps, stepKind } from "@hillcrest/core";
import { useEffect } from "react";
import { edit } from "../../state/edits.ts";
import { partActions } from "../../state/part-slice.ts";
import { store } from "../../state/store.ts";
import { type Facing, type Views, viewActions } from "../../state/view-slice.ts";
import { addStepOf } from "../../steps/add-step.tsx";
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

const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

/** The Bench's keys. What is picked has its keys first; the views' keys come after. */
export function useBenchKeys(): void {
  useEffect(() => {
    const listen = (e: KeyboardEvent) => {
      if (e.defaultPrevented || document.querySelector("[role=dialog][data-state=open]")) return;
      if ((e.ctrlKey || e.metaKey) && command(e)) return e.preventDefault();
      if (e.ctrlKey || e.metaKey || e.altKey || typing(e.target)) return;
      if (pickKeys(e) || viewKeys(e)) e.preventDefault();
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, []);
}

function command(e: KeyboardEvent): boolean {
  const key = e.key.toLowerCase();
  if (key === "z" && !typing(e.target))
    store.dispatch(e.shiftKey ? partActions.redone() : partActions.undone());
  else if (key === "y" && !typing(e.target)) store.dispatch(partActions.redone());
  else if (key === "c" && !typing(e.target) && !String(getSelection())) return carrySteps();
  else if (key === "v" && !typing(e.target)) return putSteps();
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
  edit((doc) => pasteSteps(doc, JSON.parse(text)));
  const last = store.getState().part.document?.steps.at(-1);
  if (last) store.dispatch(viewActions.stepOpened(last.id));
  return true;
}

function pickKeys(e: KeyboardEvent): boolean {
  const { view, build, part } = store.getState();
  if (e.key === "Escape") {
    store.dispatch(viewActions.pickingStarted(undefined));
    store.dispatch(viewActions.stepOpened(undefined));
    return true;
  }
  if (e.key === "Enter" && view.pickingFor) {
    store.dispatch(viewActions.pickingStarted(undefined));
    return true;
  }
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
  else if (VIEWS[key]) store.dispatch(viewActions.viewsChosen(VIEWS[key]));
  else if (key === "l") store.dispatch(viewActions.lettersToggled());
  else if (key === "b") store.dispatch(viewActions.drawerChosen("bends"));
  else if (key === "p" && store.getState().part.document?.steps.length === 0) addStepOf(stepKind("plate")!);
  else if (key === " " && !(e.target instanceof HTMLButtonElement))
    runFold(store.getState().view.fold > 0.5 ? 0 : 1);
  else return false;
  return true;
}

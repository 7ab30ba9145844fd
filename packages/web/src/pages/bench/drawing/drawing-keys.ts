import { asConstruction, DRAW_TOOLS, drawTool, holdAsItIs, type Names } from "@hillcrest/core";
import { useEffect, useRef } from "react";
import { placeGiven, putOutline } from "../../../state/drawing.ts";
import { drawingActions } from "../../../state/drawing-slice.ts";
import { useNames } from "../../../state/labels.ts";
import { type Thunk, useSend } from "../../../state/store.ts";
import { viewActions } from "../../../state/view-slice.ts";
import { focusShown, isControl, takesText } from "../../../ui/focus.ts";
import { offersFor, removePicks, takeOffer } from "./drawing-foot.tsx";
import { type Aim, type Drawing, type Tooling, useTooling } from "./use-drawing.ts";

interface KeyTask {
  readonly drawing: Drawing;
  readonly aim: Aim | undefined;
  readonly tooling: Tooling;
  readonly names: Names | undefined;
}

/** While something is drawn the keys are the drawing's: a letter takes a tool, digits are its numbers or what is offered. */
export function useDrawingKeys(drawing: Drawing, aim: Aim | undefined): void {
  const send = useSend();
  const tooling = useTooling();
  const names = useNames();
  const task = useRef<KeyTask>({ drawing, aim, tooling, names });
  task.current = { drawing, aim, tooling, names };
  useEffect(() => {
    const listen = (e: KeyboardEvent) => {
      if (document.querySelector("[role=dialog][data-state=open]")) return;
      if (e.ctrlKey || e.metaKey || e.altKey || takesText(e.target)) return;
      // A button that has the focus works by Enter and the space bar itself.
      if (isControl(e.target) && (e.key === "Enter" || e.key === " ")) return;
      // What is typed while one dimension is picked is its value: the key itself goes into the field.
      if (/^[\d.(-]$/.test(e.key) && send(beginsValue(task.current))) return e.stopImmediatePropagation();
      if (!send(keyPressed(e.key, task.current))) return;
      e.preventDefault();
      e.stopImmediatePropagation();
    };
    window.addEventListener("keydown", listen, true);
    return () => window.removeEventListener("keydown", listen, true);
  }, [send]);
}

/** Puts the cursor into the value of the one dimension that is picked; says whether there is one. */
const beginsValue =
  ({ drawing }: KeyTask): Thunk<boolean> =>
  (_send, getState) => {
    const { tool, picks } = getState().drawing;
    const [id] = picks;
    const one = tool === undefined && picks.length === 1;
    if (!one || !drawing.outline.dimensions.some((d) => d.id === id && !d.showing)) return false;
    focusShown(`[data-field="drawn-${id}"]`);
    return true;
  };

const keyPressed =
  (pressed: string, task: KeyTask): Thunk<boolean> =>
  (send, getState) => {
    const key = pressed.length === 1 ? pressed.toLowerCase() : pressed;
    const { tool, places, picks } = getState().drawing;
    if (key === "Escape") return send(stepBack());
    if (key === "Enter") return send(enter(task));
    if ((key === "Delete" || key === "Backspace") && picks.length > 0) {
      send(removePicks(task.drawing));
      return true;
    }
    if (tool !== undefined && /^[\d.(-]$/.test(key))
      return send(typeInto(pressed, task.tooling, places.length));
    if (tool === undefined && /^[1-9]$/.test(key)) {
      const offers = offersFor(task.drawing.now, picks)[Number(key) - 1];
      if (offers) send(takeOffer(task.drawing, offers, task.names));
      return true;
    }
    if (key === "z") {
      send(viewActions.facingChosen("fit"));
      return true;
    }
    if (key === "q") return send(constructionKey(task));
    if (key === "d" && tool === undefined) return send(firstDimension(task));
    const chosen = DRAW_TOOLS.find((t) => t.key === key);
    return chosen ? send(takeTool(chosen.kind)) : key.length === 1 && key !== " " && !/[\d?]/.test(key);
  };

/** Takes a tool up. A chain of lines goes on with an arc, and an arc with lines, from where it has come. */
export const takeTool =
  (kind: string): Thunk<boolean> =>
  (send, getState) => {
    const { tool, places, picks } = getState().drawing;
    const next = drawTool(kind);
    if (!next) return false;
    const chain = (k: string | undefined) => k === "line" || k === "lead-on";
    if (chain(tool) && chain(kind) && tool !== kind && places.length === 1 && places[0].after !== undefined)
      send(drawingActions.goesOnWith(kind));
    else if (next.onPicks && picks.length === 0)
      send(
        drawingActions.refused(
          `${next.title}: pick what it is about first, then press ${next.key.toUpperCase()}.`,
        ),
      );
    else send(drawingActions.toolChosen(kind));
    return true;
  };

/** Ends what was begun last: the chain, the tool, the picks. The drawing itself is ended by Enter, or by Done. */
const stepBack = (): Thunk<boolean> => (send, getState) => {
  const { tool, places } = getState().drawing;
  if (places.length > 0) send(drawingActions.placed([]));
  else if (tool !== undefined) send(drawingActions.toolChosen(undefined));
  else send(drawingActions.pickedAll([]));
  return true;
};

/** Sets the place where the pointer is; without a tool there is nothing to set, and the drawing is done. */
const enter =
  ({ drawing, aim, tooling }: KeyTask): Thunk<boolean> =>
  (send) => {
    if (!tooling.tool) send(drawingActions.closed());
    else if (aim) send(placeGiven(aim.place, drawing.now, tooling));
    return true;
  };

/** A digit begins the first number that the tool takes now. */
const typeInto =
  (digit: string, { tool }: Tooling, stage: number): Thunk<boolean> =>
  (send, getState) => {
    const key = tool?.stages[stage]?.values?.[0];
    if (key === undefined) return true;
    send(drawingActions.typed({ ...getState().drawing.typed, [key]: digit }));
    focusShown(`[data-typed="${key}"]`);
    const input = document.querySelector<HTMLInputElement>(`[data-typed="${key}"]`);
    input?.setSelectionRange(digit.length, digit.length);
    return true;
  };

const constructionKey =
  ({ drawing }: KeyTask): Thunk<boolean> =>
  (send, getState) => {
    const { picks } = getState().drawing;
    const { curves } = drawing.now;
    const chosen = curves.filter((c) => picks.includes(c.id));
    if (chosen.length === 0) send(drawingActions.constructionToggled());
    else
      putOutline(
        drawing.key,
        asConstruction(
          drawing.now,
          chosen.map((c) => c.id),
          !chosen.every((c) => c.construction),
        ),
      );
    return true;
  };

const firstDimension =
  ({ drawing, names }: KeyTask): Thunk<boolean> =>
  (send, getState) => {
    const offers = offersFor(drawing.now, getState().drawing.picks).find((o) => "dimension" in o[0]);
    if (offers) send(takeOffer(drawing, offers, names));
    else
      send(
        drawingActions.refused(
          "Pick what is to be measured first: a line, a round, two points, a point and a line, two lines.",
        ),
      );
    return true;
  };

/** Fixes all that can still move, where it is. */
export const holdAll =
  (drawing: Drawing, names: Names | undefined): Thunk =>
  () =>
    putOutline(drawing.key, holdAsItIs(drawing.now, names));

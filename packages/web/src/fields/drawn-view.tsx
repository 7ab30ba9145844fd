import type { DrawnField } from "@hillcrest/core";
import { outlinesOf } from "../state/drawing.ts";
import { drawingActions } from "../state/drawing-slice.ts";
import { drawNewFor } from "../state/drawn-shape.ts";
import { useApp, useSend } from "../state/store.ts";
import { ChoiceView } from "./choice-view.tsx";
import type { FieldViewProps } from "./field-look.ts";

const LINK =
  "ml-1.5 font-semibold text-moss underline decoration-moss/50 underline-offset-2 hover:decoration-moss";

/** One of the part's outlines, and the way to draw in it; where there is none, the way to a new one. */
export function DrawnView(props: FieldViewProps<DrawnField>) {
  const { field, value, onChange, step } = props;
  const outlines = useApp(outlinesOf);
  const send = useSend();
  const key = typeof value === "string" ? value : "";
  const chosen = outlines.some((o) => o.key === key);
  const anew = chosen && step && (
    <button
      type="button"
      data-draw-new-outline
      title="Draw a new outline for it; the one that it has stays in the part"
      className={LINK}
      onClick={() => drawNewFor(step.step, field.key)}
    >
      new
    </button>
  );
  const draw = (
    <button
      type="button"
      data-draw-outline
      data-field={outlines.length === 0 ? field.key : undefined}
      className={LINK}
      onClick={() =>
        chosen ? send(drawingActions.opened({ key })) : step && drawNewFor(step.step, field.key)
      }
    >
      {chosen ? "draw" : outlines.length === 0 ? "none yet: draw one" : "draw a new one"}
    </button>
  );
  if (outlines.length === 0) return draw;
  const options = outlines.map((o) => ({ value: o.key, label: o.outline.name.trim() || o.key }));
  // A choice of two would swap at a click: nothing chosen yet is one of them.
  const all = chosen ? options : [{ value: key, label: "choose…" }, ...options];
  return (
    <>
      <ChoiceView
        {...props}
        field={{ kind: "choice", key: field.key, label: field.label, default: "", options: all }}
        value={key}
        onChange={onChange}
      />
      {draw}
      {anew}
    </>
  );
}

import type { DrawnField } from "@hillcrest/core";
import { openPart } from "../state/part-slice.ts";
import { useApp, useSend } from "../state/store.ts";
import { viewActions } from "../state/view-slice.ts";
import { ChoiceView } from "./choice-view.tsx";
import type { FieldViewProps } from "./field-look.ts";

const NONE = [] as const;

/** One of the part's outlines; where there are none, the way to them. */
export function DrawnView(props: FieldViewProps<DrawnField>) {
  const { field, value, onChange } = props;
  const outlines = useApp((s) => openPart(s).document?.outlines ?? NONE);
  const send = useSend();
  const key = typeof value === "string" ? value : "";
  if (outlines.length === 0)
    return (
      <button
        type="button"
        data-field={field.key}
        className="font-semibold text-moss underline"
        onClick={() => send(viewActions.drawerChosen("outlines"))}
      >
        none yet: read one in
      </button>
    );
  const options = outlines.map((o) => ({ value: o.key, label: o.outline.name.trim() || o.key }));
  // A choice of two would swap at a click: nothing chosen yet is one of them.
  const all = outlines.some((o) => o.key === key) ? options : [{ value: key, label: "choose…" }, ...options];
  return (
    <ChoiceView
      {...props}
      field={{ kind: "choice", key: field.key, label: field.label, default: "", options: all }}
      value={key}
      onChange={onChange}
    />
  );
}

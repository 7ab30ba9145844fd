import { fieldsOf, stepKind } from "@hillcrest/core";
import { useState } from "react";
import { QuantityField } from "../fields/quantity-field.tsx";
import { setStepValue } from "../state/edits.ts";
import { useNames } from "../state/labels.ts";
import { openPart } from "../state/part-slice.ts";
import { useApp } from "../state/store.ts";
import type { TypedDimension } from "../views/blank/place-drawing.tsx";

/** A distance of the open step, typed where it is shown. */
export const TypeHere: TypedDimension = ({ field: key, at, text }) => {
  const [typing, setTyping] = useState(false);
  const step = useApp((s) => openPart(s).document?.steps.find((one) => one.id === s.view.openStep));
  const names = useNames();
  const field = step && fieldsOf(stepKind(step.kind), step).find((f) => f.key === key);
  if (!step || field?.kind !== "quantity") return null;
  // No wider than the text: what is beside it is a place on the plate.
  const wide = text.length * 6.4;
  if (!typing)
    return (
      // biome-ignore lint/a11y/noStaticElementInteractions: the same field stands in the step, for the keyboard
      <rect
        x={at.x - wide / 2}
        y={at.y - 7}
        width={wide}
        height={14}
        fill="transparent"
        pointerEvents="all"
        className="cursor-text"
        data-type-here={key}
        onPointerDown={(e) => e.stopPropagation()}
        onClick={(e) => {
          e.stopPropagation();
          setTyping(true);
        }}
      >
        <title>{`${field.label}: click to type another`}</title>
      </rect>
    );
  return (
    <foreignObject x={at.x - 80} y={at.y - 12} width={160} height={24} pointerEvents="all">
      {/* biome-ignore lint/a11y/noStaticElementInteractions: keeps the view from taking what is pressed in the field */}
      <span
        className="mx-auto block w-fit rounded bg-panel px-1 text-[12px] shadow-card"
        onPointerDown={(e) => e.stopPropagation()}
        onBlur={() => setTyping(false)}
      >
        <QuantityField
          spec={{ ...field, label: field.label }}
          text={String(step[key] ?? field.default)}
          names={names}
          autoFocus
          onChange={(value, mark) => setStepValue(step.id, key, value, mark)}
        />
      </span>
    </foreignObject>
  );
};

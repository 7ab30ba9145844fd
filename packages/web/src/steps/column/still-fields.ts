import {
  choicesOf,
  type FieldSpec,
  fieldsOf,
  type StepDocument,
  shownFields,
  stepKind,
} from "@hillcrest/core";
import { type FocusEvent, useState } from "react";
import { presses } from "../../ui/press.ts";

/** The field that has the focus, and the values by which the fields stand where they stood. */
interface Held {
  readonly key: string;
  readonly values: Readonly<Record<string, unknown>>;
}

const fieldAt = (target: EventTarget | null): HTMLElement | null =>
  target instanceof Element ? target.closest<HTMLElement>("[data-field]") : null;

/** Whether focus has only gone into what the field itself opened, such as its row of choices. */
const inPopover = (target: EventTarget | null): boolean =>
  target instanceof Element && target.closest("[data-radix-popper-content-wrapper]") !== null;

const sentenceFields = (step: StepDocument): ReadonlySet<string> =>
  new Set(
    stepKind(step.kind)!
      .sentence(step)
      .flatMap((p) => (typeof p === "string" ? [] : [p.field])),
  );

/**
 * Where the fields of a step stand. A value that is given moves its field from the list into the
 * sentence, and one that is emptied moves back; while the field has focus it stays where it is, for a
 * field that moves loses its focus, and with it the rest of what is typed. A field that gets the focus
 * does not move by getting it either: what held the others goes on holding until that moves nothing, and where it was
 * pressed with the pointer nothing at all moves before the click is over.
 */
export function useStillFields(step: StepDocument) {
  const [held, setHeld] = useState<Held>();
  const fields = fieldsOf(stepKind(step.kind), step);
  const layoutBy = (values: Held["values"] | undefined): StepDocument =>
    values && Object.entries(values).some(([key, value]) => step[key] !== value)
      ? { ...step, ...values }
      : step;
  const layout = layoutBy(held?.values);
  const onFocusCapture = (e: FocusEvent<HTMLElement>) => {
    const place = fieldAt(e.target);
    const key = place?.dataset.field;
    if (!key || key === held?.key || !e.currentTarget.contains(place)) return;
    const spec = fields.find((f) => f.key === key);
    if (!spec) return;
    // A choice in the sentence makes its fields appear around it, and stays in its place by itself.
    const stands = spec.kind === "choice" || spec.kind === "item";
    const moves = !stands || place.closest("[data-list]") !== null;
    const own = moves ? { [key]: step[key] } : {};
    const stays = sentenceFields(layout).has(key) === sentenceFields(layoutBy(own)).has(key);
    const all = { ...own, ...held?.values };
    if (!stays || !presses.isPressed) return setHeld({ key, values: stays ? own : all });
    const pressed: Held = { key, values: all };
    setHeld(pressed);
    presses.after(() => setHeld((now) => (now === pressed ? { key, values: own } : now)));
  };
  const onBlurCapture = (e: FocusEvent<HTMLElement>) => {
    if (!held || inPopover(e.relatedTarget)) return;
    // Within the step the next field decides, or nothing moves: what is clicked must not slip away.
    const to = e.relatedTarget;
    const within = to instanceof Node && to !== e.currentTarget && e.currentTarget.contains(to);
    if (!within) presses.after(() => setHeld((now) => (now === held ? undefined : now)));
  };
  return { layout, focus: { onFocusCapture, onBlurCapture } };
}

/** The fields that a step's sentence does not show, in their order. */
export function listedFields(step: StepDocument, layout: StepDocument): FieldSpec[] {
  const fields = fieldsOf(stepKind(step.kind), step);
  const said = sentenceFields(layout);
  const choices = choicesOf(fields, step);
  return shownFields(fields, choices).filter((f) => f.kind !== "rows" && !said.has(f.key));
}

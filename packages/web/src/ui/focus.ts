import { flushSync } from "react-dom";

/**
 * Puts the cursor into a field of a step, else into its first value: at once, so that what is typed
 * next goes there and not to the keys of the views.
 */
export function focusFirstField(step: string, field?: string): void {
  const row = `[data-step="${step}"]`;
  const rest = [`${row} input:not([data-field=name])`, `${row} [data-pick-more]`, `${row} [data-field]`, row];
  focusShown(...(field ? [`${row} [data-field="${CSS.escape(field)}"]`] : []), ...rest);
}

const FOCUSABLE = "input, button, select, textarea, [tabindex]";

/** Focuses the first of some elements that is there, once what was just changed has been rendered. */
export function focusShown(...selectors: readonly string[]): void {
  flushSync(() => undefined);
  const find = () => selectors.map((s) => document.querySelector<HTMLElement>(s)).find(Boolean);
  const focus = () => {
    const place = find();
    place?.scrollIntoView({ block: "nearest" });
    // A field of picks is words; what can have the focus stands within it.
    (place?.matches(FOCUSABLE) ? place : (place?.querySelector<HTMLElement>(FOCUSABLE) ?? place))?.focus();
    return place != null;
  };
  const before = document.activeElement;
  // The first row of a long table is there when its frame has been measured, a few pictures later.
  const look = (pictures: number): void => {
    if (pictures === 0 || document.activeElement !== before || focus()) return;
    requestAnimationFrame(() => look(pictures - 1));
  };
  if (!focus()) requestAnimationFrame(() => look(PATIENCE));
}

/** For so many pictures something that is to have the focus is looked for. */
const PATIENCE = 12;

/** After a value is entered the step keeps the focus; outside of steps nothing has it. */
export function leaveField(input: HTMLElement): void {
  const row = input.closest<HTMLElement>("[data-step]");
  if (row) row.focus({ preventScroll: true });
  else input.blur();
}

/** Hands the keys to the views. */
export const focusViews = (): void =>
  document.querySelector<HTMLElement>("[data-views]")?.focus({ preventScroll: true });

/** Whether letters typed now are text that goes into a field, not keys. */
export const takesText = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    /^(TEXTAREA|SELECT)$/.test(target.tagName) ||
    (target instanceof HTMLInputElement && !/^(checkbox|radio|range|button|file)$/.test(target.type)));

/** Whether something works by Enter or the space bar itself. */
export const isControl = (target: EventTarget | null): boolean =>
  target instanceof Element &&
  target.closest("button, a, select, summary, [role=button], [role=option], input, textarea") !== null;

/**
 * Whether bare letters and digits are the Bench's keys. A step that is open keeps them to itself, unless
 * a view has been clicked since.
 */
export function keysAreFree(stepIsOpen: boolean): boolean {
  const active = document.activeElement;
  if (takesText(active)) return false;
  return active?.closest("[data-views]") != null || !stepIsOpen;
}

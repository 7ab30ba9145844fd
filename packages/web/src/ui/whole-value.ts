import type { FocusEvent, MouseEvent } from "react";

/** A field that got the focus without a click, and what stood in it then. */
let fresh: { readonly input: HTMLInputElement; readonly value: string } | undefined;
let pressed: HTMLInputElement | undefined;

/**
 * A field's value is taken whole, to be typed over, when it gets the focus and at the first click into
 * it, also where the focus was there before the hand came; the next click puts the cursor into the text.
 */
export const wholeValue = {
  onFocus: ({ currentTarget: input }: FocusEvent<HTMLInputElement>): void => {
    input.select();
    fresh = pressed === input ? undefined : { input, value: input.value };
    pressed = undefined;
  },
  onMouseDown: (e: MouseEvent<HTMLInputElement>): void => {
    const input = e.currentTarget;
    if (document.activeElement !== input) {
      pressed = input;
      return;
    }
    if (fresh?.input === input && fresh.value === input.value) {
      e.preventDefault();
      input.select();
    }
    fresh = undefined;
  },
};

import type { FocusEvent, MouseEvent } from "react";

/** What has the focus of the fields of a page. */
class FieldFocus {
  /** A field that got the focus without a click, and what stood in it then. */
  private fresh: { readonly input: HTMLInputElement; readonly value: string } | undefined;
  private pressed: HTMLInputElement | undefined;

  readonly onFocus = ({ currentTarget: input }: FocusEvent<HTMLInputElement>): void => {
    input.select();
    this.fresh = this.pressed === input ? undefined : { input, value: input.value };
    this.pressed = undefined;
  };

  readonly onMouseDown = (e: MouseEvent<HTMLInputElement>): void => {
    const input = e.currentTarget;
    if (document.activeElement !== input) {
      this.pressed = input;
      return;
    }
    if (this.fresh?.input === input && this.fresh.value === input.value) {
      e.preventDefault();
      input.select();
    }
    this.fresh = undefined;
  };
}

const { onFocus, onMouseDown } = new FieldFocus();

/**
 * A field's value is taken whole, to be typed over, when it gets the focus and at the first click into
 * it, also where the focus was there before the hand came; the next click puts the cursor into the text.
 */
export const wholeValue = { onFocus, onMouseDown };

/** Whether a button of the pointer is down, and what waits until it is up. */
let down = false;
let waiting: (() => void)[] = [];

/** Follows the pointer's buttons from now on, for the whole page. */
export function watchPresses(page: Pick<Window, "addEventListener" | "setTimeout">): void {
  page.addEventListener("pointerdown", () => (down = true), true);
  const released = () => {
    down = false;
    // The click that a press ends in comes before this.
    page.setTimeout(() => {
      const acts = waiting;
      waiting = [];
      for (const act of acts) act();
    }, 0);
  };
  for (const up of ["pointerup", "pointercancel"]) page.addEventListener(up, released, true);
  // A list that the system draws itself keeps the release of the press that opened it.
  page.addEventListener("pointermove", (e) => down && e.buttons === 0 && released(), true);
}

/**
 * Does something once no button is down: at once, or when the click is over that is under way. What moves the page between
 * a press and its release moves what was pressed away from under the pointer, and the click is lost.
 */
export function afterPress(act: () => void): void {
  if (down) waiting.push(act);
  else act();
}

export const isPressed = (): boolean => down;

/** The buttons of the pointer on a page: whether one is down, and what waits until it is up. */
export class Presses {
  private down = false;
  private waiting: (() => void)[] = [];

  /** Follows the pointer's buttons from now on, for the whole page. */
  watch(page: Pick<Window, "addEventListener" | "setTimeout">): void {
    page.addEventListener(
      "pointerdown",
      () => {
        this.down = true;
      },
      true,
    );
    const released = () => {
      this.down = false;
      // The click that a press ends in comes before this.
      page.setTimeout(() => {
        const acts = this.waiting;
        this.waiting = [];
        for (const act of acts) act();
      }, 0);
    };
    for (const up of ["pointerup", "pointercancel"]) page.addEventListener(up, released, true);
    // A list that the system draws itself keeps the release of the press that opened it.
    page.addEventListener("pointermove", (e) => this.down && e.buttons === 0 && released(), true);
  }

  /**
   * Does something once no button is down: at once, or when the click is over that is under way. What moves the page between
   * a press and its release moves what was pressed away from under the pointer, and the click is lost.
   */
  after(act: () => void): void {
    if (this.down) this.waiting.push(act);
    else act();
  }

  get isPressed(): boolean {
    return this.down;
  }
}

/** Those of the page. */
export const presses = new Presses();

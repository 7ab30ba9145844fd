import type { Pick } from "./view-slice.ts";

/** So far the pointer goes when somebody points at something else, px. */
const FAR_PX = 16;

/** What the pointer is at, as exactly as it is known when it is asked for. */
export interface Pointed {
  readonly pick: Pick;
  /** How many millimetres of the sheet a pixel of the view is. */
  readonly mmPerPx: number;
}

/**
 * Where the pointer is in the views. It moves many times a second and nothing is drawn by it, so it is no part of the state:
 * who needs the place asks the view for it.
 */
class Pointing {
  private look: (() => Pointed | undefined) | undefined;
  /** Where it is in the views, and where it was when a key was last pressed, or when it came in since. */
  private last: { readonly x: number; readonly y: number } | undefined;
  private from: { readonly x: number; readonly y: number } | undefined;
  private far = false;

  /** The pointer is in a view, which can say what it is at. */
  at(
    { clientX: x, clientY: y }: { clientX: number; clientY: number },
    look: () => Pointed | undefined,
  ): void {
    this.look = look;
    this.last = { x, y };
    this.from ??= this.last;
    if (Math.hypot(x - this.from.x, y - this.from.y) > FAR_PX) this.far = true;
  }

  /** The pointer has left the views. */
  left(): void {
    this.look = undefined;
    this.last = undefined;
    this.from = undefined;
    this.far = false;
  }

  /** A key was pressed: what is typed on without pointing elsewhere goes where it went. */
  keyPressed(): void {
    this.from = this.last;
    this.far = false;
  }

  /** Whether somebody has pointed at something else since a key was last pressed, and does not merely rest there. */
  get hasMoved(): boolean {
    return this.isInside && this.far;
  }

  /** Whether the pointer is in a view. */
  get isInside(): boolean {
    return this.look !== undefined;
  }

  now(): Pointed | undefined {
    return this.look?.();
  }
}

export const pointing = new Pointing();

/** Moments of an edit, for measuring from outside. Only the last of each is kept. */
export type Moment = "edited" | "built" | "folded-drawn" | "blank-drawn";

export function noteMoment(moment: Moment, detail?: number): void {
  const name = `hillcrest:${moment}`;
  performance.clearMarks(name);
  performance.mark(name, { detail });
}

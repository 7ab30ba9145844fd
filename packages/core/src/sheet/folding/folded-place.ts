import { compose, type Motion, STILL } from "../../space/vector.ts";
import { bendTo, type OpenDraft } from "../draft.ts";
import { bendMotion } from "../pieces/bend-piece.ts";

/** Where a plate stands in space when everything is folded, but for the bends that are `held` flat. */
export function foldedPlace(draft: OpenDraft, plate: string, held: ReadonlySet<string> = draft.held): Motion {
  const bend = bendTo(draft, plate);
  if (!bend) return draft.roots.find((r) => r.plate === plate)?.place ?? STILL;
  const angle = held.has(bend.id) ? 0 : bend.angle;
  return compose(foldedPlace(draft, bend.parent, held), bendMotion(bend, draft.t, angle, bend.allowance));
}

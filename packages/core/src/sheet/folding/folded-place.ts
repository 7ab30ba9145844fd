import { type Motion, STILL } from "../../space/vector.ts";
import { carrierTo, type OpenDraft } from "../draft.ts";
import { carriedMotion } from "../draft-kinds.ts";

/** Where a plate stands in space when everything is folded, but for what is `held` flat. */
export function foldedPlace(draft: OpenDraft, plate: string, held: ReadonlySet<string> = draft.held): Motion {
  const carrier = carrierTo(draft, plate);
  if (!carrier) return draft.roots.find((r) => r.plate === plate)?.place ?? STILL;
  return carriedMotion(carrier, foldedPlace(draft, carrier.parent, held), held.has(carrier.id), draft.t);
}

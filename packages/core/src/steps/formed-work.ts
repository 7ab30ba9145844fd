import type { BlankShown } from "../forming/section.ts";
import { Kept } from "../kept.ts";
import { loopBounds } from "../plane/loop.ts";
import type { FeatureLook } from "../sheet/feature.ts";
import type { FormedWork } from "../sheet/shaping/metal-op.ts";
import type { FormItem } from "../stock/forms/form-item.ts";
import type { ResolvedForm } from "../stock/forms/resolve-form.ts";

/** How something formed is meant besides its shape: to which side, and what it leaves on the blank. */
export interface Meant {
  readonly turn: string;
  /** As its form has it: `own`. */
  readonly onBlank: string;
}

const works = new Kept(
  (item: FormItem, { form, turn, onBlank }: Meant & { readonly form: ResolvedForm }): FormedWork => ({
    shape: { ...form.shape, side: turn === "down" ? "down" : "up" },
    onBlank: onBlank === "own" ? item.onBlank : (onBlank as BlankShown),
    title: item.name,
    room: form.room,
  }),
  (p, q) => p.turn === q.turn && p.onBlank === q.onBlank && JSON.stringify(p.form) === JSON.stringify(q.form),
);

const looks = new Kept((form: ResolvedForm): FeatureLook => {
  const { minX, minY, maxX, maxY } = loopBounds(form.outline);
  return { kind: "formed", size: { width: maxX - minX, height: maxY - minY } };
});

/** What something formed is as a feature. */
export const formedLook = (form: ResolvedForm): FeatureLook => looks.of(form);

/** What is said of each shape that a step forms: the same record where nothing has changed. */
export const formedWork = (item: FormItem, form: ResolvedForm, { turn, onBlank }: Meant): FormedWork =>
  works.of(item, { form, turn, onBlank });

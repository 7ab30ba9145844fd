import type { BlankShown } from "../forming/section.ts";
import { Kept } from "../kept.ts";
import type { FormedWork } from "../sheet/shaping/metal.ts";
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

/** What is said of each shape that a step forms: the same record where nothing has changed. */
export const formedWork = (item: FormItem, form: ResolvedForm, { turn, onBlank }: Meant): FormedWork =>
  works.of(item, { form, turn, onBlank });

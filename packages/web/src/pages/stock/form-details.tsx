import {
  curvePath,
  drawnSection,
  type FormItem,
  formatShort,
  formDocument,
  loopBounds,
  OWN_FORMS,
  ownForm,
  readFormText,
  resolveForm,
  type StockItem,
  toDegrees,
} from "@hillcrest/core";
import { useMemo, useState } from "react";
import { useItems } from "../../state/stock.ts";
import { FormSection } from "../../steps/faces/form-picture.tsx";
import { FindingMark } from "../../ui/finding-mark.tsx";
import { ItemFile } from "./item-file.tsx";

interface FormDetailsProps {
  readonly form: FormItem;
  readonly onChange: (item: StockItem, mark?: string) => void;
}

/** Sheet of this thickness, mm, is looked at: a form says no part's. */
const TRIED = 1.5;
const SIZE = 290;
const LIST = "block w-full rounded border border-hairline bg-raised px-1 py-0.5";
/** What of a form can be taken from a drawing. */
const TAKEN = [
  ["outline", "Take its outline from a kept one…"],
  ["section", "Take its section from a kept one…"],
] as const;

/** A form in section and in plan with the values that it begins with, and what can be taken into it. */
export function FormDetails({ form, onChange }: FormDetailsProps) {
  const found = useMemo(() => resolveForm(form, () => undefined, TRIED), [form]);
  return (
    <section aria-label="The form" className="w-[290px] space-y-3" data-form-details>
      {found.ok ? (
        <>
          <div className="rounded border border-hairline bg-raised text-ink">
            <FormSection item={form} width={SIZE} height={130} />
          </div>
          <Plan form={form} />
          <p className="text-quiet">In {formatShort(TRIED)} mm sheet, by the values that it begins with:</p>
          <table>
            <tbody>
              {form.values.map((v) => (
                <tr key={v.name}>
                  <td className="pr-4 font-semibold">{v.name}</td>
                  <td className="pr-4 text-quiet">{v.label}</td>
                  <td className="num">{said(v.measures, found.value.values[v.name])}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      ) : (
        <p className="max-w-[30em] leading-snug" data-form-wrong>
          <FindingMark level="stop" /> {found.error.message}
        </p>
      )}
      <TakeDrawn form={form} onChange={onChange} />
      <ItemFile
        name={form.name}
        purpose="form"
        document={() => formDocument(form)}
        read={readFormText}
        onRead={(read) => onChange({ ...read, id: form.id })}
      />
    </section>
  );
}

const said = (measures: string, value: number): string =>
  measures === "angle"
    ? `${formatShort(toDegrees(value), 3)}°`
    : `${formatShort(value, 3)}${measures === "length" ? " mm" : ""}`;

/** Its outline from above: what is cut free strongly, what is formed finely. */
function Plan({ form }: { form: FormItem }) {
  const found = resolveForm(form, () => undefined, TRIED);
  if (!found.ok) return null;
  const { outline, opening } = found.value;
  const { minX, minY, maxX, maxY } = loopBounds(outline);
  const [w, h] = [maxX - minX, maxY - minY];
  const rim = Math.max(w, h) * 0.08;
  const free = outline.filter((c) => c.name === "form:cut");
  const pen = { fill: "none", vectorEffect: "non-scaling-stroke" } as const;
  return (
    <svg
      width={SIZE}
      height={130}
      viewBox={`${minX - rim} ${-maxY - rim} ${w + 2 * rim} ${h + 2 * rim}`}
      role="img"
      aria-label={`The outline of ${form.name}`}
      className="rounded border border-hairline bg-raised"
    >
      <g transform="scale(1 -1)">
        <path
          d={curvePath(outline, true)}
          stroke="var(--ink)"
          strokeOpacity={0.45}
          strokeWidth={1}
          {...pen}
        />
        {free.map((c, i) => (
          <path key={i} d={curvePath([c], false)} stroke="var(--ink)" strokeWidth={2} {...pen} />
        ))}
        {opening && <path d={curvePath(opening, true)} stroke="var(--ink)" strokeWidth={2} {...pen} />}
      </g>
    </svg>
  );
}

/** The outlines that the shop keeps, as the outline or the section of a form. */
function TakeDrawn({ form, onChange }: FormDetailsProps) {
  const kept = useItems("outlines").filter((o) => o.outline.curves.length > 0);
  const [told, setTold] = useState<string>();
  const take = (id: string, as: "outline" | "section") => {
    const item = kept.find((o) => o.id === id);
    if (!item) return;
    setTold(undefined);
    if (as === "outline") return onChange({ ...form, outline: "drawn", drawn: item.outline });
    const section = drawnSection(item.outline);
    if (section.ok) onChange({ ...form, section: section.value });
    else setTold(section.error);
  };
  return (
    <div className="space-y-1.5">
      <select
        aria-label="Begin again with one that every shop has"
        data-begin-with
        className={LIST}
        value=""
        onChange={(e) => {
          const own = ownForm(e.currentTarget.value);
          if (own) onChange({ ...own, id: form.id, name: form.name, note: form.note });
        }}
      >
        <option value="">Begin again with one that every shop has…</option>
        {OWN_FORMS.map((o) => (
          <option key={o.id} value={o.id}>
            {o.name}
          </option>
        ))}
      </select>
      {kept.length === 0 && (
        <p className="max-w-[30em] leading-snug text-quiet">
          An outline or a section can be drawn: draw it on the Bench, keep it for the shop, and it is offered
          here.
        </p>
      )}
      {(kept.length === 0 ? [] : TAKEN).map(([as, text]) => (
        <select
          key={as}
          aria-label={text}
          data-take={as}
          className={LIST}
          value=""
          onChange={(e) => take(e.currentTarget.value, as)}
        >
          <option value="">{text}</option>
          {kept.map((o) => (
            <option key={o.id} value={o.id}>
              {o.name}
            </option>
          ))}
        </select>
      ))}
      {told && (
        <p role="alert" className="leading-snug text-warn">
          {told}
        </p>
      )}
    </div>
  );
}

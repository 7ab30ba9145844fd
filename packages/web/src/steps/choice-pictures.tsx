import { evaluateStock, type FieldValues, hemNumbers, jogNumbers, type StockValues } from "@hillcrest/core";
import type { ReactNode } from "react";
import { SheetSection } from "./sheet-section.tsx";
import type { FieldContext } from "./step-fields.tsx";

type Draw = (values: FieldValues, stock: StockValues, option: string) => ReactNode;

/** Choices that are made on pictures drawn from the step's own numbers, by step kind and field. */
const SECTIONS: Readonly<Record<string, Draw>> = {
  "hem.form": (values, stock, option) => hem(values, stock, { form: option }),
  "hem.place": (values, stock, option) => hem(values, stock, { place: option }),
  "jog.form": (values, stock, option) => jog(values, stock, { form: option }),
  "jog.between": (values, stock, option) => jog(values, stock, { between: option }),
};

function hem(values: FieldValues, stock: StockValues, choice: Record<string, string>): ReactNode {
  const { thickness: t, radius } = stock;
  const q = values.quantities;
  const filled = {
    ...q,
    gap: q.gap ?? t,
    radius: q.radius ?? Math.max(radius, t),
    angle: q.angle ?? Math.PI * 1.5,
  };
  const choices = { ...values.choices, ...choice };
  const numbers = hemNumbers({ ...values, quantities: filled, choices }, t, radius);
  if ("error" in numbers) return undefined;
  const way = choices.turn === "down" ? -1 : 1;
  const parent = Math.max(6 * t, numbers.lip + 4 * t);
  return (
    <SheetSection
      t={t}
      pieces={[
        { length: parent },
        { turn: way * numbers.angle, radius: numbers.radius },
        { length: Math.min(numbers.lip, parent) },
      ]}
    />
  );
}

function jog(values: FieldValues, stock: StockValues, choice: Record<string, string>): ReactNode {
  const { thickness: t } = stock;
  const q = values.quantities;
  const radius = q.radius ?? stock.radius;
  const filled = { offset: 4 * t, depth: t, run: 12 * t, thingHeight: 4 * t, clearance: t, ...defined(q) };
  const choices = { ...values.choices, ...choice };
  const numbers = jogNumbers({ ...values, quantities: filled, choices }, t, radius);
  if ("error" in numbers) return undefined;
  const way = choices.turn === "down" ? -1 : 1;
  const flat = { length: Math.max(4 * t, numbers.run * 0.4) };
  const out = (sign: number) => [
    { turn: sign * way * numbers.angle, radius },
    { length: numbers.middle },
    { turn: -sign * way * numbers.angle, radius },
  ];
  const back = choices.form === "over" ? [{ length: 6 * t }, ...out(-1)] : [];
  return <SheetSection t={t} pieces={[flat, ...out(1), ...back, flat]} />;
}

const defined = (q: FieldValues["quantities"]) =>
  Object.fromEntries(Object.entries(q).filter(([, v]) => v !== undefined)) as Record<string, number>;

const line = { fill: "none", stroke: "currentColor", strokeLinejoin: "round" as const };
const metal = { fill: "var(--metal-b)", stroke: "currentColor", strokeLinejoin: "round" as const };

/** What a choice looks like in plan: corners seen from above, legs and outlines seen square on. */
const PLANS: Readonly<Record<string, ReactNode>> = {
  "corner.close.mitre": (
    <>
      <path d="M8 14h41l9 9H8Z" {...metal} />
      <path d="M60 50V24l-9-9" {...line} />
      <path d="M51 15v0l9 9v26h-9Z" {...metal} />
    </>
  ),
  "corner.close.butt": (
    <>
      <path d="M8 14h52v9H8Z" {...metal} />
      <path d="M51 25h9v25h-9Z" {...metal} />
    </>
  ),
  "corner.close.open": (
    <>
      <path d="M8 14h38v9H8Z" {...metal} />
      <path d="M51 28h9v22h-9Z" {...metal} />
    </>
  ),
  "corner.relief.none": <path d="M10 46V10h18v18h38v18Z" {...metal} />,
  "corner.relief.round": <path d="M10 46V10h18v11a7 7 0 1 0 8 8h30v17Z" {...metal} />,
  "corner.relief.square": <path d="M10 46V10h18v12h-5v11h11v-5h32v18Z" {...metal} />,
  "corner.relief.slot": <path d="M10 46V10h18v13l-9 9a4 4 0 0 0 6 6l10-10h31v18Z" {...metal} />,
  "corner.relief.teardrop": <path d="M10 46V10h18v14q-10 4-8 9 3 6 9 3 4-3 4-8h33v18Z" {...metal} />,
  "flange.shape.rectangle": <path d="M14 46V14h48v32Z" {...metal} />,
  "flange.shape.angles": <path d="M14 46 24 14h28l10 32Z" {...metal} />,
  "flange.shape.step": <path d="M14 46V30h12V14h24v16h12v16Z" {...metal} />,
  "flange.shape.outline": <path d="M14 46V32L38 10l24 22v14Z" {...metal} />,
  "lug.shape.rectangle": <path d="M14 46V14h48v32Z" {...metal} />,
  "lug.shape.angles": <path d="M14 46 24 14h28l10 32Z" {...metal} />,
  "lug.shape.outline": <path d="M14 46V32L38 10l24 22v14Z" {...metal} />,
  "plate.form.rectangle": <path d="M12 42V14h52v28Z" {...metal} />,
  "plate.form.round": <circle cx="38" cy="28" r="18" {...metal} />,
  "plate.form.outline": <path d="M12 42 18 14l28-4 18 16-10 18Z" {...metal} />,
  "round.form.round": <path d="M14 46V28q0-14 14-14h34v32Z" {...metal} />,
  "round.form.chamfer": <path d="M14 46V28l14-14h34v32Z" {...metal} />,
  "cut.form.rectangle": <path d="M10 46V10h56v36ZM24 22v12h28V22Z" fillRule="evenodd" {...metal} />,
  "cut.form.round": <path d="M10 46V10h56v36ZM38 20a8 8 0 1 0 .01 0Z" fillRule="evenodd" {...metal} />,
  "cut.form.slot": (
    <path d="M10 46V10h56v36ZM28 22a6 6 0 0 0 0 12h20a6 6 0 0 0 0-12Z" fillRule="evenodd" {...metal} />
  ),
  "cut.form.outline": (
    <path d="M10 46V10h56v36ZM26 34 30 20 46 18 52 28 40 36Z" fillRule="evenodd" {...metal} />
  ),
};

/** The picture of one option of a choice, if that choice is made on pictures. */
export function choicePicture(
  context: FieldContext,
  key: string,
): ((option: string) => ReactNode) | undefined {
  const { step, values } = context;
  const name = `${step.kind}.${key}`;
  const draw = SECTIONS[name];
  if (draw && values) {
    const { stock } = evaluateStock(context.stock);
    return (option) => (stock && draw(values, stock, option)) ?? <span className="h-[54px]" />;
  }
  if (!Object.keys(PLANS).some((k) => k.startsWith(`${name}.`))) return undefined;
  return (option) => (
    <svg width={76} height={54} viewBox="0 0 76 54" aria-hidden="true">
      {PLANS[`${name}.${option}`]}
    </svg>
  );
}

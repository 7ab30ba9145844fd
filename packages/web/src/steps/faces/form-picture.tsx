import { type FormItem, OWN_FORMS, type Point, resolveForm, sectionPlaces } from "@hillcrest/core";
import { useMemo } from "react";
import { useItems } from "../../state/stock.ts";

/** Sheet of this thickness, mm, is drawn where no part says another. */
const DRAWN_THICKNESS = 1.5;
const [WIDE, HIGH] = [76, 54];
/** Plate beside the shape, as a share of its width. */
const BESIDE = 0.28;

/** The two sides of a section from left to right, in mm, and where metal ends between. */
interface Profile {
  readonly pieces: readonly (readonly Point[])[];
  readonly left: number;
  readonly right: number;
  readonly low: number;
  readonly high: number;
}

/** How far the middle of a form is from the borders that are formed. */
function halfOf(
  outline: readonly { readonly a: Point; readonly b: Point; readonly name?: string }[],
): number {
  return Math.min(
    ...outline
      .filter(({ name }) => name !== "form:cut")
      .map(({ a, b }) => {
        const [dx, dy] = [b.x - a.x, b.y - a.y];
        const f = Math.max(0, Math.min(1, -(a.x * dx + a.y * dy) / (dx * dx + dy * dy || 1)));
        return Math.hypot(a.x + dx * f, a.y + dy * f);
      }),
  );
}

function profileOf(item: FormItem): Profile | undefined {
  const t = DRAWN_THICKNESS;
  const found = resolveForm(item, () => undefined, t);
  if (!found.ok) return undefined;
  const { outline, shape } = found.value;
  const places = sectionPlaces(shape, t, 0.02);
  const reach = Math.max(...places.map((p) => Math.max(p.inA, p.inB)));
  const round = item.outline === "round";
  const half = round ? (outline[0].kind === "arc" ? outline[0].r : reach) : halfOf(outline);
  const runs = outline.filter(
    (c, i) => c.name !== "form:cut" && outline.at(i - 1)!.name === "form:cut",
  ).length;
  const free = outline.some((c) => c.name === "form:cut");
  const flat = reach === 0;
  const oneSided = free && runs === 1 && !flat && !round;
  const right = oneSided ? reach : 2 * half;
  const side = right * BESIDE;
  const a = places.map((p) => ({ x: p.inA, y: p.upA }));
  const b = places.map((p) => ({ x: p.inB, y: p.upB }));
  const over = (list: readonly Point[]) => [...list].reverse().map(({ x, y }) => ({ x: right - x, y }));
  const plate = (x0: number, x1: number) => [
    { x: x0, y: 0 },
    { x: x1, y: 0 },
    { x: x1, y: t },
    { x: x0, y: t },
  ];
  const before = { a: { x: -side, y: 0 }, b: { x: -side, y: t } };
  const after = { a: { x: right + side, y: 0 }, b: { x: right + side, y: t } };
  const gap = right * 0.04;
  const pieces = flat
    ? [plate(-side, -gap / 2), plate(gap / 2, right - gap / 2), plate(right + gap / 2, right + side)]
    : oneSided
      ? [[before.a, ...a, ...[...b].reverse(), before.b], plate(right + gap, right + side)]
      : shape.open
        ? [
            [before.a, ...a, ...[...b].reverse(), before.b],
            [after.b, ...[...over(b)].reverse(), ...over(a), after.a],
          ]
        : [
            [
              before.a,
              ...a,
              ...over(a),
              after.a,
              after.b,
              ...[...over(b)].reverse(),
              ...[...b].reverse(),
              before.b,
            ],
          ];
  const heights = pieces.flat().map((p) => p.y);
  return { pieces, left: -side, right: right + side, low: Math.min(...heights), high: Math.max(...heights) };
}

/** A form in section, as it is with the values that it begins with. */
export function FormSection({
  item,
  width = WIDE,
  height = HIGH,
}: {
  item: FormItem;
  width?: number;
  height?: number;
}) {
  const profile = useMemo(() => profileOf(item), [item]);
  if (!profile) return <svg width={width} height={height} aria-hidden="true" />;
  const { pieces, left, right, low, high } = profile;
  const scale = Math.min((width - 8) / (right - left), (height - 14) / (high - low));
  const [x0, y0] = [width / 2 - ((left + right) / 2) * scale, height / 2 + ((low + high) / 2) * scale];
  const at = ({ x, y }: Point) => `${(x0 + x * scale).toFixed(2)} ${(y0 - y * scale).toFixed(2)}`;
  return (
    <svg width={width} height={height} viewBox={`0 0 ${width} ${height}`} aria-hidden="true">
      <path
        d={pieces.map((p) => `M${p.map(at).join("L")}Z`).join("")}
        fill="var(--metal-b)"
        stroke="currentColor"
        strokeWidth={1}
        strokeLinejoin="round"
      />
    </svg>
  );
}

/** The picture of an option of a step's shape: one that every shop has, or one of the shop's. */
export function FormOption({ option, kept }: { option: string; kept: FormItem | undefined }) {
  const items = useItems("forms");
  const item =
    OWN_FORMS.find(({ id }) => id === option) ?? items.find(({ id }) => `shop ${id}` === option) ?? kept;
  return item ? <FormSection item={item} /> : null;
}

import { type Comparison, type Difference, formatShort } from "@hillcrest/core";

const round = (v: number) => Number(v.toFixed(6));

const reported = ({ what, at, to, by }: Difference) => ({
  what,
  at: at.map(round),
  ...(to ? { to: to.map(round) } : {}),
  ...(by === undefined ? {} : { by: round(by) }),
});

/** What a comparison found, as other programs read it: mm on the blank as it lies, degrees. */
export const comparisonReport = (c: Comparison) => ({
  same: c.same,
  scale: c.scale,
  mirrored: c.mirrored,
  turned: round(c.turned),
  offset: c.offset.map(round),
  moved: c.moved.map(reported),
  changed: c.changed.map(reported),
  added: c.added.map(reported),
  removed: c.removed.map(reported),
  notes: c.notes,
});

/** The same in words. */
export function describeComparison(c: Comparison): string {
  const place = ([x, y]: readonly [number, number]) => `${formatShort(x, 3)}, ${formatShort(y, 3)}`;
  const line = (kind: string) => (d: Difference) =>
    `  ${kind} ${d.what} at ${place(d.at)}${d.to ? ` to ${place(d.to)}` : ""}${d.by === undefined ? "" : `, by ${formatShort(d.by, 4)} mm`}`;
  const whole = [
    ...(c.scale === 1 ? [] : [`  the whole file is ${formatShort(c.scale, 6)} times as large`]),
    ...(c.mirrored ? ["  the whole file is mirrored"] : []),
    ...(c.turned === 0 ? [] : [`  the whole file is turned by ${formatShort(c.turned, 4)}°`]),
  ];
  return [
    c.same ? "the same" : "not the same",
    ...whole,
    ...c.moved.map(line("moved")),
    ...c.changed.map(line("changed")),
    ...c.added.map(line("added")),
    ...c.removed.map(line("removed")),
    ...c.notes.map((n) => `  ${n}`),
  ].join("\n");
}

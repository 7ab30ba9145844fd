import { ANGLE_UNITS, bendAllowance, bendDeduction } from "@hillcrest/core";
import { useMemo, useState } from "react";
import { type Dot, Plot, type Series } from "../../ui/plot.tsx";
import type { FoundBy } from "./study-methods.ts";

interface StudyPlotProps {
  readonly t: number;
  readonly r: number;
  readonly degrees: number;
  readonly now: FoundBy;
  readonly methods: readonly FoundBy[];
}

const LOOKS = [
  { ink: "bend-up", dash: [6, 4] },
  { ink: "bend-down", dash: [2, 3] },
  { ink: "warn", dash: [9, 3, 2, 3] },
  { ink: "quiet", dash: [4, 2] },
] as const;
const MOST = LOOKS.length;
/** Above this angle a deduction to the mould point runs away. */
const BD_TO = 150;

/** BA and BD over the angle, as several methods find them. */
export function StudyPlot({ t, r, degrees, now, methods }: StudyPlotProps) {
  const others = methods.filter((m) => m.method !== now.method);
  // The standard is there from the start: everyone knows it, whichever chart a shop goes by.
  const [marked, setChosen] = useState<readonly string[]>();
  const chosen = marked ?? others.filter((m) => m.name === "DIN 6935").map((m) => m.method);
  const shown = others.filter((m) => chosen.includes(m.method)).slice(0, MOST);
  const [which, setWhich] = useState<"BA" | "BD">("BA");
  const series = useMemo(() => curves(which, t, r, degrees, now, shown), [which, t, r, degrees, now, shown]);
  return (
    <section>
      <div className="mb-1 flex items-center gap-1">
        <h2 className="grow font-bold">Methods compared</h2>
        {(["BA", "BD"] as const).map((w) => (
          <button
            key={w}
            type="button"
            aria-pressed={w === which}
            className={`rounded px-2 py-0.5 ${w === which ? "bg-moss-soft font-bold" : "text-quiet hover:text-ink"}`}
            onClick={() => setWhich(w)}
          >
            {w}
          </button>
        ))}
      </div>
      <Plot
        title={`${which} over the bend angle by several methods`}
        series={series}
        x="bend angle, °"
        y={`${which}, mm`}
        xFrom={0}
        xTo={which === "BD" ? BD_TO : 180}
        className="h-60"
      />
      <div className="mt-1 flex flex-wrap gap-1.5">
        {others.map((m) => {
          const on = chosen.includes(m.method);
          return (
            <button
              key={m.method}
              type="button"
              aria-pressed={on}
              disabled={!on && shown.length >= MOST}
              className={`max-w-44 truncate rounded-full border px-2 text-[12px] ${on ? "border-moss bg-moss-soft" : "border-hairline text-quiet hover:border-moss"}`}
              title={m.name}
              onClick={() => setChosen(on ? chosen.filter((c) => c !== m.method) : [...chosen, m.method])}
            >
              {m.name}
            </button>
          );
        })}
      </div>
    </section>
  );
}

function curves(
  which: "BA" | "BD",
  t: number,
  r: number,
  degrees: number,
  now: FoundBy,
  others: readonly FoundBy[],
): Series[] {
  const at = (method: FoundBy, x: number): Dot | undefined => {
    const shape = { t, r, angle: x * ANGLE_UNITS.deg };
    const { k, source } = method.find(shape);
    if (source.outside) return undefined;
    const y = which === "BA" ? bendAllowance(shape, k) : bendDeduction(shape, k);
    return y === undefined ? undefined : { x, y };
  };
  const to = which === "BD" ? BD_TO : 180;
  const curve = (method: FoundBy) =>
    Array.from({ length: to / 3 }, (_, i) => at(method, 3 * (i + 1))).filter((d) => d !== undefined);
  const here = at(now, Math.min(degrees, to));
  return [
    { label: now.name, ink: "moss", points: curve(now), width: 2.4 },
    ...others.map((m, i) => ({ label: m.name, points: curve(m), ...LOOKS[i] })),
    ...(here
      ? [
          {
            label: "this bend",
            ink: "amber",
            marks: "circle" as const,
            size: 6,
            silent: true,
            points: [here],
          },
        ]
      : []),
  ];
}

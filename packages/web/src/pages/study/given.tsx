import { type Dimension, formatShort } from "@hillcrest/core";
import { Slider } from "radix-ui";
import { FindingMark } from "../../ui/finding-mark.tsx";
import { NumberBox } from "../../ui/number-box.tsx";
import type { Entered } from "./entered.ts";
import type { FoundBy, Method } from "./study-methods.ts";

interface GivenProps {
  readonly entered: Entered;
  readonly k: number;
  readonly methods: readonly FoundBy[];
  readonly onSet: (more: Partial<Entered>) => void;
  readonly onK: (k: number) => void;
}

export function Given({ entered, k, methods, onSet, onK }: GivenProps) {
  return (
    <section className="space-y-2.5">
      <h2 className="font-bold">One bend</h2>
      <Turns entered={entered} k={k} onSet={onSet} onK={onK} />
      {(k < 0 || k > 1) && (
        <p>
          <FindingMark level="warn" /> K {formatShort(k, 4)} lies outside 0 to 1, where no sheet has its
          neutral axis.
        </p>
      )}
      <FoundBySelect entered={entered} k={k} methods={methods} onSet={onSet} />
      <div className="flex items-baseline justify-between gap-2">
        <span title="To the outer mould point; at 180° and more to the outermost tangent">Legs, outside</span>
        <span className="flex gap-2">
          <NumberBox
            label="Leg A"
            field="legA"
            value={entered.legA}
            dimension="length"
            problem={least}
            onChange={(legA) => onSet({ legA })}
          />
          <NumberBox
            label="Leg B"
            field="legB"
            value={entered.legB}
            dimension="length"
            problem={least}
            onChange={(legB) => onSet({ legB })}
          />
        </span>
      </div>
    </section>
  );
}

const above = (v: number) => (v > 0 ? undefined : "It must be more than 0.");
const least = (v: number) => (v >= 0 ? undefined : "It must be at least 0.");

/** Thickness, radius, angle and K, each as a slider and a field. */
function Turns({ entered, k, onSet, onK }: Omit<GivenProps, "methods">) {
  return (
    <>
      <Turn
        field="t"
        label="Thickness"
        value={entered.t}
        {...RANGES.t}
        problem={above}
        onChange={(t) => onSet({ t })}
      />
      <Turn
        field="r"
        label="Inside radius"
        value={entered.r}
        {...RANGES.r}
        problem={least}
        onChange={(r) => onSet({ r })}
      />
      <Turn
        field="angle"
        label="Bend angle"
        value={entered.degrees}
        {...RANGES.angle}
        problem={(v) => (v > 0 && v <= 330 ? undefined : "It must be more than 0° and at most 330°.")}
        onChange={(degrees) => onSet({ degrees })}
      />
      <Turn
        field="k"
        label="Neutral axis"
        value={k}
        {...RANGES.k}
        problem={(v) => (v >= -5 && v <= 5 ? undefined : "It must be from −5 to 5.")}
        onChange={onK}
      />
    </>
  );
}

/** By what K is found: the K above, the standard, or a chart of the shop. */
function FoundBySelect({ entered, k, methods, onSet }: Omit<GivenProps, "onK">) {
  return (
    <div className="flex items-center gap-2">
      <span className="w-[92px] shrink-0">Found by</span>
      <select
        aria-label="Found by"
        className="min-w-0 grow rounded border border-hairline bg-raised px-1.5 py-1"
        value={entered.method}
        onChange={(e) => {
          const method = e.currentTarget.value as Method;
          onSet(method === "own" ? { method, k } : { method });
        }}
      >
        <option value="own">the K above</option>
        {methods.map((m) => (
          <option key={m.method} value={m.method}>
            {m.name}
          </option>
        ))}
      </select>
    </div>
  );
}

interface TurnProps {
  readonly field: string;
  readonly label: string;
  readonly value: number;
  readonly from: number;
  readonly to: number;
  readonly step: number;
  readonly dimension: Dimension;
  readonly unit?: string;
  readonly problem: (value: number) => string | undefined;
  readonly onChange: (value: number) => void;
}

/** What the sliders reach; the fields take more. */
const RANGES = {
  t: { from: 0.3, to: 6, step: 0.05, dimension: "length" },
  r: { from: 0, to: 12, step: 0.1, dimension: "length" },
  angle: { from: 5, to: 180, step: 1, dimension: "angle" },
  k: { from: 0, to: 0.6, step: 0.005, dimension: "number", unit: "K" },
} as const;

/** A value as a slider and a field. */
function Turn({ field, label, value, from, to, step, dimension, unit, problem, onChange }: TurnProps) {
  return (
    <div className="flex items-center gap-2">
      <span className="w-[92px] shrink-0">{label}</span>
      <Slider.Root
        className="relative flex h-5 min-w-0 grow touch-none items-center"
        min={from}
        max={to}
        step={step}
        value={[Math.min(to, Math.max(from, value))]}
        onValueChange={([v]) => onChange(Number(v.toFixed(6)))}
      >
        <Slider.Track className="relative h-[3px] grow rounded bg-hairline">
          <Slider.Range className="absolute h-full rounded bg-moss" />
        </Slider.Track>
        <Slider.Thumb
          aria-label={`${label} slider`}
          className="block size-4 rounded-full border-2 border-moss bg-panel"
        />
      </Slider.Root>
      <NumberBox
        label={unit ?? label}
        field={field}
        value={value}
        dimension={dimension}
        unit={unit}
        problem={problem}
        onChange={onChange}
      />
    </div>
  );
}

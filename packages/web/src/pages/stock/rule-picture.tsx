import type { ReactNode } from "react";

const METAL = { fill: "var(--metal-b)", stroke: "var(--ink)", strokeWidth: 1 } as const;
const VOID = { fill: "var(--panel)", stroke: "var(--ink)", strokeWidth: 1 } as const;
const MEASURE = { stroke: "var(--amber)", strokeWidth: 1.6, fill: "none" } as const;
const BEND = { stroke: "var(--bend-up)", strokeWidth: 1, strokeDasharray: "4 2", fill: "none" } as const;

/** A measure between two places that lie level or upright, with a tick at either end. */
function Measure({ x1, y1, x2, y2 }: { x1: number; y1: number; x2: number; y2: number }) {
  const level = y1 === y2;
  const tick = (x: number, y: number) => (level ? `M${x} ${y - 3}V${y + 3}` : `M${x - 3} ${y}H${x + 3}`);
  return <path d={`M${x1} ${y1}L${x2} ${y2}${tick(x1, y1)}${tick(x2, y2)}`} {...MEASURE} />;
}

const PLATE = <rect x="4" y="6" width="64" height="40" {...METAL} />;

const PICTURES: Readonly<Record<string, ReactNode>> = {
  "short-leg": (
    <>
      <path d="M8 50V38H26L36 28L46 38H64V50Z" fill="var(--hairline)" />
      <path d="M6 16L36 32L52 20L50 17L36 27L8 12Z" {...METAL} />
      <path d="M37 36L54 23" {...MEASURE} />
    </>
  ),
  "close-bends": (
    <>
      <path d="M10 8V38H62V8H57V33H15V8Z" {...METAL} />
      <Measure x1={10} y1={45} x2={62} y2={45} />
    </>
  ),
  "opening-to-bend": (
    <>
      {PLATE}
      <path d="M4 18H68" {...BEND} />
      <circle cx="36" cy="35" r="6" {...VOID} />
      <Measure x1={50} y1={18} x2={50} y2={29} />
    </>
  ),
  "opening-in-bend": (
    <>
      {PLATE}
      <path d="M4 18H68M4 34H68" {...BEND} />
      <circle cx="36" cy="26" r="6" {...VOID} />
    </>
  ),
  "small-opening": (
    <>
      {PLATE}
      <circle cx="36" cy="26" r="4" {...VOID} />
      <Measure x1={32} y1={38} x2={40} y2={38} />
    </>
  ),
  "thin-web": (
    <>
      {PLATE}
      <circle cx="24" cy="26" r="9" {...VOID} />
      <circle cx="47" cy="26" r="9" {...VOID} />
      <Measure x1={33} y1={26} x2={38} y2={26} />
    </>
  ),
  "long-bend": (
    <>
      {PLATE}
      <path d="M4 26H68" {...BEND} />
      <Measure x1={4} y1={36} x2={68} y2={36} />
    </>
  ),
  "brake-force": (
    <>
      <path d="M16 50V38H30L36 32L42 38H56V50Z" fill="var(--hairline)" />
      <path d="M12 26L36 34L60 26L59 22L36 29L13 22Z" {...METAL} />
      <path d="M36 4V22M31 16L36 23L41 16" {...MEASURE} />
    </>
  ),
  "tight-gap": (
    <>
      <path d="M10 6V44H33V39H15V6Z" {...METAL} />
      <path d="M62 6V44H39V39H57V6Z" {...METAL} />
      <Measure x1={33} y1={48} x2={39} y2={48} />
    </>
  ),
  mass: (
    <>
      <path d="M14 14V34H58V14H54V30H18V14Z" {...METAL} />
      <path d="M36 34V50M31 44L36 51L41 44" {...MEASURE} />
    </>
  ),
};

/** What a rule measures, as a small drawing. */
export function RulePicture({ rule, faded }: { rule: string; faded: boolean }) {
  return (
    <svg
      viewBox="0 0 72 54"
      width="96"
      height="72"
      aria-hidden="true"
      className={`shrink-0 ${faded ? "opacity-35" : ""}`}
    >
      {PICTURES[rule]}
    </svg>
  );
}

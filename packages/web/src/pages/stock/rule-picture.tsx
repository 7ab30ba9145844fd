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
  "deep-channel": (
    <>
      <path d="M31 2H41V30L36 42L31 30Z" fill="var(--hairline)" />
      <path d="M36 50L12 26L30 8L33 11L18 26L36 44L56 24L59 27Z" {...METAL} />
      <Measure x1={31} y1={20} x2={36} y2={20} />
    </>
  ),
  "edge-beside-bend": (
    <>
      <path d="M4 50V24H34V6H68V50Z" {...METAL} />
      <path d="M34 18H68" {...BEND} />
      <Measure x1={24} y1={18} x2={24} y2={24} />
    </>
  ),
  "slanted-end": (
    <>
      <path d="M4 6H50L66 46H4Z" {...METAL} />
      <path d="M4 26H58" {...BEND} />
      <path d="M58 26V40M50 6V40" stroke="var(--amber)" strokeWidth="1.2" strokeDasharray="2 2" fill="none" />
    </>
  ),
  "acute-bend": (
    <>
      <path d="M8 50V38H22L36 24L50 38H64V50Z" fill="var(--hairline)" />
      <path d="M12 12L36 34L60 12L58 9L36 29L14 9Z" {...METAL} />
      <path d="M29 22A10 10 0 0 0 43 22" {...MEASURE} />
    </>
  ),
  "least-radius": (
    <>
      <path d="M10 6V30A16 16 0 0 0 26 46H66V39H26A9 9 0 0 1 17 30V6Z" {...METAL} />
      <path d="M26 30L19 37M11 34L14 40M18 42L22 45" {...MEASURE} />
    </>
  ),
  "grain-radius": (
    <>
      {PLATE}
      <path
        d="M10 12H62M10 19H62M10 33H62M10 40H62"
        stroke="var(--ink)"
        strokeOpacity="0.35"
        strokeWidth="0.8"
        fill="none"
      />
      <path d="M4 26H68" {...BEND} />
    </>
  ),
  "card-radius": (
    <>
      <path d="M10 6V30A16 16 0 0 0 26 46H66V39H26A9 9 0 0 1 17 30V6Z" {...METAL} />
      <path d="M26 30L19.6 36.4M26 30H30" {...MEASURE} />
    </>
  ),
  "outside-chart": (
    <>
      <path d="M10 6V46H64" stroke="var(--ink)" strokeWidth="1" fill="none" />
      <path d="M14 40L26 30L38 24L46 21" stroke="var(--ink)" strokeWidth="1.4" fill="none" />
      <path d="M46 21L58 18" stroke="var(--amber)" strokeWidth="1.4" strokeDasharray="2 2" fill="none" />
      <circle cx="58" cy="18" r="2.5" fill="var(--amber)" />
    </>
  ),
  "k-range": (
    <>
      <path d="M4 16H68V40H4Z" {...METAL} />
      <path d="M4 28H68" {...BEND} />
      <Measure x1={36} y1={16} x2={36} y2={28} />
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
  "form-room": (
    <>
      {PLATE}
      <circle cx="32" cy="26" r="10" {...VOID} />
      <circle cx="32" cy="26" r="5" {...VOID} />
      <Measure x1={42} y1={26} x2={68} y2={26} />
    </>
  ),
  "hardware-room": (
    <>
      {PLATE}
      <circle cx="48" cy="26" r="7" {...VOID} />
      <path d="M48 15 58 20.5V31.5L48 37 38 31.5V20.5Z" fill="none" stroke="currentColor" />
      <Measure x1={48} y1={26} x2={68} y2={26} />
    </>
  ),
  "form-thin": (
    <>
      <path
        d="M4 38h14c6 0 8-18 14-18h10c6 0 8 18 14 18h12v6H54c-6 0-8-18-14-18h-6c-6 0-8 18-14 18H4Z"
        fill="var(--metal-b)"
        stroke="currentColor"
        strokeLinejoin="round"
      />
      <Measure x1={22} y1={26} x2={27} y2={32} />
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
  "die-force": (
    <>
      <path d="M16 50V38H30L36 32L42 38H56V50Z" fill="var(--hairline)" />
      <path d="M12 26L36 34L60 26L59 22L36 29L13 22Z" {...METAL} />
      <path d="M28 4V19M24 14L28 20L32 14M44 4V19M40 14L44 20L48 14" {...MEASURE} />
    </>
  ),
  "hem-kind": (
    <>
      <path d="M4 30H52A5 5 0 0 0 52 20H24V24H51A2 2 0 0 1 51 26H4Z" {...METAL} />
      <path d="M40 8V17M36 13L40 18L44 13" {...MEASURE} />
    </>
  ),
  "small-jog": (
    <>
      <path d="M4 20H30L40 32H68V38H37L27 26H4Z" {...METAL} />
      <Measure x1={58} y1={20} x2={58} y2={32} />
    </>
  ),
  relief: (
    <>
      <path d="M4 50V24H30V6H68V50Z" {...METAL} />
      <path d="M30 24H68" {...BEND} />
      <path d="M30 24L25 30L31 34L27 42" {...MEASURE} />
    </>
  ),
  "small-relief": (
    <>
      <path d="M4 50V16H30V34H36V6H68V50Z" {...METAL} />
      <path d="M36 22H68" {...BEND} />
      <Measure x1={30} y1={41} x2={36} y2={41} />
      <Measure x1={22} y1={22} x2={22} y2={34} />
    </>
  ),
  "idle-relief": (
    <>
      <path d="M4 50V40H36V6H68V50Z" {...METAL} />
      <path d="M36 22H68" {...BEND} />
      <path d="M30 22V34H36" stroke="var(--amber)" strokeWidth="1.2" strokeDasharray="2 2" fill="none" />
    </>
  ),
  seam: (
    <>
      {PLATE}
      <path d="M4 26H68" {...BEND} />
      <path d="M24 6V30H36V6Z" {...VOID} />
      <Measure x1={24} y1={36} x2={36} y2={36} />
    </>
  ),
  "cut-free": (
    <>
      <path d="M4 6H68V20H4Z" {...METAL} />
      <path d="M4 30H68V48H4Z" {...METAL} />
      <path d="M4 20H68" {...BEND} />
      <path d="M31 22L41 28M41 22L31 28" {...MEASURE} />
    </>
  ),
  "narrow-slit": (
    <>
      <path d="M4 6H34V34H37V6H68V46H4Z" {...METAL} />
      <path d="M26 14H33M31 11L34 14L31 17M45 14H38M40 11L37 14L40 17" {...MEASURE} />
    </>
  ),
  "short-line": (
    <>
      <path d="M4 46V16H40L43 19V46Z" {...METAL} />
      <circle cx="41.5" cy="17.5" r="8" {...MEASURE} />
    </>
  ),
  "sharp-inner": (
    <>
      {PLATE}
      <path d="M22 16H50V36H22Z" {...VOID} />
      <path d="M42 16A8 8 0 0 1 50 24" {...MEASURE} />
    </>
  ),
  overlap: (
    <>
      <path d="M4 30H40V50H4Z" {...METAL} />
      <path d="M30 6H66V38H30Z" {...METAL} fillOpacity="0.7" />
      <path d="M30 30H40V38H30Z" fill="var(--stop)" fillOpacity="0.6" stroke="var(--stop)" strokeWidth="1" />
    </>
  ),
  "sheet-size": (
    <>
      <path d="M8 10H60V44H8Z" stroke="var(--ink)" strokeWidth="1" strokeDasharray="5 2" fill="none" />
      <path d="M12 14H68V40H12Z" {...METAL} />
      <path d="M60 14V40" {...MEASURE} />
    </>
  ),
  grain: (
    <>
      <path d="M8 8H64V46H8Z" stroke="var(--ink)" strokeWidth="1" strokeDasharray="5 2" fill="none" />
      <path d="M14 14H58M14 40H58" stroke="var(--ink)" strokeOpacity="0.4" strokeWidth="0.8" fill="none" />
      <path d="M20 18H52V36H20Z" {...METAL} />
      <path d="M36 21V33M33 24L36 21L39 24M33 30L36 33L39 30" {...MEASURE} />
    </>
  ),
  collision: (
    <>
      <path d="M8 6V46H48V41H13V6Z" {...METAL} />
      <path d="M64 46V41H40L20 12L16 15L37 46Z" {...METAL} fillOpacity="0.75" />
      <path
        d="M36 41H44L40 46H36Z"
        fill="var(--stop)"
        fillOpacity="0.7"
        stroke="var(--stop)"
        strokeWidth="1"
      />
    </>
  ),
  "meets-on-the-way": (
    <>
      <path d="M8 6V46H64V8H59V41H13V6Z" {...METAL} />
      <path
        d="M13 44L38 12M59 44L30 12"
        stroke="var(--amber)"
        strokeWidth="2"
        strokeDasharray="3 2"
        fill="none"
      />
    </>
  ),
  "turns-alone": (
    <>
      <path d="M8 8V46H50" stroke="var(--ink)" strokeWidth="4" strokeOpacity="0.35" fill="none" />
      <path d="M8 8H30" stroke="var(--ink)" strokeWidth="4" strokeOpacity="0.35" fill="none" />
      <path d="M50 46L26 20" stroke="var(--ink)" strokeWidth="4" fill="none" />
      <path d="M60 34A20 20 0 0 0 40 20M45 16L39 20L44 25" {...MEASURE} />
    </>
  ),
  "tight-gap": (
    <>
      <path d="M10 6V44H33V39H15V6Z" {...METAL} />
      <path d="M62 6V44H39V39H57V6Z" {...METAL} />
      <Measure x1={33} y1={48} x2={39} y2={48} />
    </>
  ),
  "lone-sheet": (
    <>
      <path d="M4 34V46H36V42H8V34Z" {...METAL} />
      <path d="M46 8H68V22H46Z" {...METAL} />
      <path d="M36 38L46 24" stroke="var(--amber)" strokeWidth="1.4" strokeDasharray="2 2" fill="none" />
    </>
  ),
  "both-ways": (
    <>
      <path d="M8 6V25H58V48H63V20H13V6Z" {...METAL} />
      <path d="M22 14V8M19 11L22 7L25 11M50 32V42M47 39L50 43L53 39" {...MEASURE} />
    </>
  ),
  "sharp-outer": (
    <>
      <path d="M4 46V10H54V46Z" {...METAL} />
      <path d="M42 10A12 12 0 0 1 54 22" {...MEASURE} />
    </>
  ),
  "idle-step": (
    <>
      <path d="M6 12H34V42H6Z" {...METAL} />
      <path d="M46 12H66V42H46Z" {...METAL} />
      <path d="M37 24H43M37 30H43" {...MEASURE} />
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

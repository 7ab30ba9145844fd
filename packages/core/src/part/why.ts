import { formatFixed, formatShort, toDegrees } from "../units/quantity.ts";
import type { BendRow, PartBuild } from "./build.ts";

/** One line of an explanation: a formula or a value, and where it comes from. */
export interface WhyLine {
  readonly text: string;
  readonly source?: string;
  /** The step to open, when the source is one. */
  readonly step?: string;
}

export interface Why {
  readonly title: string;
  readonly result: string;
  readonly lines: readonly WhyLine[];
}

/** What can be asked about a bend. */
export type BendQuestion = "allowance" | "deduction" | "k";

const n = (v: number) => formatShort(v, 4);

/** Explains a bend's number: formula, inputs with their sources, result. */
export function whyBend(build: PartBuild, bend: BendRow, question: BendQuestion): Why {
  const t = build.stock?.thickness ?? 0;
  const theta = bend.angle;
  const setback = Math.tan(theta / 2) * (bend.radius + t);
  const step = build.steps.findIndex((s) => s.id === bend.step) + 1;
  const ownRadius = bend.radius !== build.stock?.radius;
  const inputs: WhyLine[] = [
    { text: `θ = ${n(toDegrees(theta))}° = ${n(theta)}`, source: `step ${step}`, step: bend.step },
    ownRadius
      ? { text: `r = ${n(bend.radius)}`, source: `step ${step}`, step: bend.step }
      : { text: `r = ${n(bend.radius)}`, source: "stock" },
    {
      text: `K = ${n(bend.k)}`,
      source: bend.kSource,
      step: bend.kSource === "this step" ? bend.step : undefined,
    },
    { text: `t = ${n(t)}`, source: "stock" },
  ];
  const allowance = `BA = ${n(theta)} × (${n(bend.radius)} + ${n(bend.k)} × ${n(t)}) = ${n(bend.allowance)}`;
  if (question === "k") {
    return {
      title: "K, the neutral axis",
      result: n(bend.k),
      lines: [{ text: `K = ${n(bend.k)}`, source: bend.kSource }, ...inputs.slice(1, 2), inputs[3]],
    };
  }
  if (question === "allowance") {
    return {
      title: "bend allowance",
      result: `${formatFixed(bend.allowance)} mm`,
      lines: [{ text: "BA = θ (r + K·t)" }, ...inputs, { text: allowance }],
    };
  }
  return {
    title: "bend deduction",
    result: `${formatFixed(bend.deduction ?? 0)} mm`,
    lines: [
      { text: "BD = 2·tan(θ/2)·(r + t) − BA" },
      ...inputs,
      { text: allowance },
      { text: `setback = tan(θ/2)·(r + t) = ${n(setback)}` },
      { text: `BD = 2 × ${n(setback)} − ${n(bend.allowance)} = ${n(bend.deduction ?? 0)}` },
    ],
  };
}

/** Explains the mass of the part. */
export function whyMass(build: PartBuild): Why {
  const volume = build.folded?.volume ?? 0;
  const mass = build.folded?.mass ?? 0;
  return {
    title: "mass",
    result: `${formatFixed(mass, 3)} kg`,
    lines: [
      { text: "mass = volume × density" },
      {
        text: `volume = ${formatFixed(volume, 1)} mm³`,
        source: "plates t·area, bends θ/2·((r + t)² − r²)·width",
      },
      { text: `density = ${n(build.stock?.density ?? 0)} kg/m³`, source: "stock" },
      { text: `mass = ${formatFixed(mass, 4)} kg` },
    ],
  };
}

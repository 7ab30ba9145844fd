import {
  followStudy,
  formatFixed,
  formatShort,
  type StudyGiven,
  type StudyResult,
  type StudyUnknown,
  solveStudy,
  toDegrees,
  type Why,
} from "@hillcrest/core";
import { Copy } from "lucide-react";
import { useState } from "react";
import { Button } from "../../ui/button.tsx";
import { FindingMark } from "../../ui/finding-mark.tsx";
import { NumberBox } from "../../ui/number-box.tsx";
import { WhyNumber } from "../../ui/why-card.tsx";
import type { FoundBy } from "./study-methods.ts";

interface FollowsProps {
  readonly given: StudyGiven;
  readonly found: FoundBy;
  readonly lines: Why["lines"];
  readonly onSolved: (unknown: StudyUnknown, value: number) => void;
}

const RESULTS: readonly {
  readonly of: StudyResult;
  readonly name: string;
  readonly by: readonly StudyUnknown[];
}[] = [
  { of: "allowance", name: "Bend allowance, BA", by: ["k", "r", "angle", "t"] },
  { of: "deduction", name: "Bend deduction, BD", by: ["k", "r", "angle", "t"] },
  { of: "outerSetback", name: "Outer setback", by: ["r", "angle", "t"] },
  { of: "flat", name: "Flat length", by: ["legA", "legB", "k", "r", "angle", "t"] },
];
const UNKNOWNS: Readonly<Record<StudyUnknown, string>> = {
  k: "K",
  r: "the inside radius",
  angle: "the bend angle",
  t: "the thickness",
  legA: "leg A",
  legB: "leg B",
};

export function Follows({ given, found, lines, onSolved }: FollowsProps) {
  const [open, setOpen] = useState<StudyResult>();
  const follows = followStudy(given);
  return (
    <section>
      <h2 className="mb-1 flex items-baseline justify-between font-bold">
        What follows{" "}
        <span className="text-[12px] font-normal text-quiet">set one, and another gives way</span>
      </h2>
      {RESULTS.map(({ of, name, by }) => {
        const value = follows[of];
        return (
          <div key={of} className="border-t border-hairline py-1" data-follows={of}>
            <div className="flex items-center gap-2">
              <span className={`grow ${of === "flat" ? "font-bold" : ""}`}>{name}</span>
              {value === undefined ? (
                <span className="text-quiet">none at 180° and more</span>
              ) : (
                <>
                  <WhyNumber
                    text={formatFixed(value, 3)}
                    label={name}
                    className="font-semibold text-moss"
                    why={() => whyOf(of, given, lines)}
                  />
                  <span className="num text-quiet">mm</span>
                  <Button
                    kind="quiet"
                    className="size-6 px-0"
                    aria-label={`Copy ${name}`}
                    title={`Copy ${value}`}
                    data-copy={String(value)}
                    onClick={() => void navigator.clipboard?.writeText(String(value))}
                  >
                    <Copy size={13} />
                  </Button>
                  <button
                    type="button"
                    aria-expanded={open === of}
                    className="rounded border border-hairline px-1.5 text-[12px] hover:border-moss"
                    onClick={() => setOpen(open === of ? undefined : of)}
                  >
                    set
                  </button>
                </>
              )}
            </div>
            {open === of && value !== undefined && (
              <Solve of={of} value={value} by={by} given={given} found={found} onSolved={onSolved} />
            )}
          </div>
        );
      })}
      <p className="border-t border-hairline pt-1 text-quiet">
        straight{" "}
        <span className={`num ${follows.straightA < 0 ? "text-stop" : ""}`}>
          {formatFixed(follows.straightA, 3)}
        </span>{" "}
        and{" "}
        <span className={`num ${follows.straightB < 0 ? "text-stop" : ""}`}>
          {formatFixed(follows.straightB, 3)}
        </span>{" "}
        mm beyond the tangent lines
      </p>
    </section>
  );
}

interface SolveProps {
  readonly of: StudyResult;
  readonly value: number;
  readonly by: readonly StudyUnknown[];
  readonly given: StudyGiven;
  readonly found: FoundBy;
  readonly onSolved: (unknown: StudyUnknown, value: number) => void;
}

function Solve({ of, value, by, given, found, onSolved }: SolveProps) {
  const [unknown, setUnknown] = useState(by[0]);
  const [problem, setProblem] = useState<string>();
  const solve = (is: number) => {
    const kOf =
      found.method === "own" ? undefined : (s: { t: number; r: number; angle: number }) => found.find(s).k;
    const result = solveStudy(given, unknown, { of, is }, kOf);
    setProblem(result.ok ? undefined : result.error);
    if (result.ok) onSolved(unknown, result.value);
  };
  return (
    <div className="mt-1 mb-1 rounded bg-moss-soft px-2 py-1.5" data-solve={of}>
      <div className="flex items-center gap-2">
        make it
        <NumberBox
          label={`Wanted ${of}`}
          field="wanted"
          value={value}
          dimension="length"
          onChange={(is) => solve(is)}
        />
        by
        <select
          aria-label="By changing"
          className="rounded border border-hairline bg-raised px-1 py-0.5"
          value={unknown}
          onChange={(e) => setUnknown(e.currentTarget.value as StudyUnknown)}
        >
          {by.map((u) => (
            <option key={u} value={u}>
              {UNKNOWNS[u]}
            </option>
          ))}
        </select>
      </div>
      {problem && (
        <p role="alert" className="mt-1 text-[12px] leading-snug">
          <FindingMark level="stop" /> {problem}
        </p>
      )}
    </div>
  );
}

function whyOf(of: StudyResult, given: StudyGiven, lines: Why["lines"]): Why {
  const { t, r, angle, k, legA, legB } = given;
  const n = (v: number) => formatShort(v, 4);
  const f = followStudy(given);
  const setback = f.legSetback;
  const shape = [
    { text: `θ = ${n(toDegrees(angle))}° = ${n(angle)}`, source: "this page" },
    { text: `r = ${n(r)}, t = ${n(t)}`, source: "this page" },
  ];
  const setbackLine = {
    text:
      f.outerSetback === undefined
        ? `setback = r + t = ${n(setback)}, to the outermost tangent`
        : `setback = tan(θ/2)·(r + t) = ${n(setback)}`,
  };
  const allowance = {
    text: `BA = θ (r + K·t) = ${n(angle)} × (${n(r)} + ${n(k)} × ${n(t)}) = ${n(f.allowance)}`,
  };
  switch (of) {
    case "allowance":
      return {
        title: "bend allowance",
        result: `${n(f.allowance)} mm`,
        lines: [...shape, ...lines, allowance],
      };
    case "deduction":
      return {
        title: "bend deduction",
        result: `${n(f.deduction ?? 0)} mm`,
        lines: [
          ...shape,
          ...lines,
          allowance,
          setbackLine,
          { text: `BD = 2·setback − BA = ${n(f.deduction ?? 0)}` },
        ],
      };
    case "outerSetback":
      return { title: "outer setback", result: `${n(setback)} mm`, lines: [...shape, setbackLine] };
    case "flat":
      return {
        title: "flat length",
        result: `${n(f.flat)} mm`,
        lines: [
          ...shape,
          ...lines,
          allowance,
          setbackLine,
          {
            text: `flat = A + B − 2·setback + BA = ${n(legA)} + ${n(legB)} − ${n(2 * setback)} + ${n(f.allowance)} = ${n(f.flat)}`,
          },
        ],
      };
  }
}

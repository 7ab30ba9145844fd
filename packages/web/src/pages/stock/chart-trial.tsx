import {
  type BendChart,
  type BendShape,
  bendAllowance,
  bendDeduction,
  type Dimension,
  formatFixed,
  formatShort,
  itemProblems,
  kByChart,
  sayLengths,
  sayOutside,
  toRadians,
} from "@hillcrest/core";
import { useMemo, useState } from "react";
import { Link } from "react-router";
import { FindingMark } from "../../ui/finding-mark.tsx";
import { NumberBox } from "../../ui/number-box.tsx";
import { WhyLines } from "../../ui/why-card.tsx";
import { StepTitle } from "./step-title.tsx";

/** A bend to try the chart on as it stands, saved or not. */
export function ChartTrial({ chart }: { chart: BendChart }) {
  const { rule } = chart;
  const row =
    rule.method === "table" && rule.rows.length > 0 ? rule.rows[Math.floor(rule.rows.length / 2)] : undefined;
  const [t, setT] = useState(row?.[0] ?? 1.5);
  const [r, setR] = useState(row?.[1] ?? 1.5);
  const [angle, setAngle] = useState(90);
  const broken = useMemo(() => itemProblems("charts", chart).length > 0, [chart]);
  const shape = { t, r, angle: toRadians(angle) };
  const answer = broken ? undefined : kByChart(chart, shape);
  return (
    <section data-trial>
      <StepTitle number={4}>Try a bend</StepTitle>
      <div className="flex gap-3">
        <Tried label="Thickness" value={t} problem={above} onChange={setT} />
        <Tried label="Radius" value={r} problem={least} onChange={setR} />
        <Tried label="Bend angle" dimension="angle" value={angle} problem={turns} onChange={setAngle} />
      </div>
      {!answer ? (
        <p className="mt-2 text-quiet">It answers when what is wrong with the chart is mended.</p>
      ) : (
        <Answer chart={chart} shape={shape} angle={angle} answer={answer} />
      )}
    </section>
  );
}

const above = (v: number) => (v > 0 ? undefined : "It must be more than 0.");
const least = (v: number) => (v >= 0 ? undefined : "It must be at least 0.");
const turns = (v: number) => (v > 0 && v < 360 ? undefined : "It must be more than 0° and less than 360°.");

interface TriedProps {
  readonly label: string;
  readonly dimension?: Dimension;
  readonly value: number;
  readonly problem: (value: number) => string | undefined;
  readonly onChange: (value: number) => void;
}

/** One number of the bend that is tried. */
const Tried = ({ label, dimension = "length", ...rest }: TriedProps) => (
  <span className="text-[12px] text-quiet">
    {label.toLowerCase()}
    <br />
    <NumberBox label={`${label} to try`} dimension={dimension} width="6rem" {...rest} />
  </span>
);

interface AnswerProps {
  readonly chart: BendChart;
  readonly shape: BendShape;
  readonly angle: number;
  readonly answer: ReturnType<typeof kByChart>;
}

/** What the chart says of the bend, and how it comes to it. */
function Answer({ chart, shape, angle, answer }: AnswerProps) {
  const deduction = bendDeduction(shape, answer.k);
  return (
    <div className="mt-2">
      <p className="num text-[14px]">
        K <b data-trial-k>{formatShort(answer.k, 4)}</b> · BA{" "}
        <b data-trial-ba>{formatFixed(bendAllowance(shape, answer.k), 4)}</b>
        {deduction !== undefined && (
          <>
            {" "}
            · BD <b>{formatFixed(deduction, 4)}</b>
          </>
        )}
      </p>
      {answer.source.outside && (
        <p className="mt-1">
          <FindingMark level="warn" /> {sayLengths(sayOutside(answer.source.outside))}
        </p>
      )}
      <div className="mt-1 text-[12.5px] text-quiet">
        <WhyLines lines={answer.source.lines} />
      </div>
      <Link
        className="mt-1 inline-block text-moss hover:underline"
        to={`/study?t=${shape.t}&r=${shape.r}&angle=${angle}&chart=${chart.id}`}
      >
        See this bend in the Bend study
      </Link>
    </div>
  );
}

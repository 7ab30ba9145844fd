import {
  type BendChart,
  bendAllowance,
  bendDeduction,
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
  const deduction = answer && bendDeduction(shape, answer.k);
  return (
    <section data-trial>
      <StepTitle number={4}>Try a bend</StepTitle>
      <div className="flex gap-3">
        <span className="text-[12px] text-quiet">
          thickness
          <br />
          <NumberBox
            label="Thickness to try"
            value={t}
            dimension="length"
            width="6rem"
            problem={(v) => (v > 0 ? undefined : "It must be more than 0.")}
            onChange={setT}
          />
        </span>
        <span className="text-[12px] text-quiet">
          radius
          <br />
          <NumberBox
            label="Radius to try"
            value={r}
            dimension="length"
            width="6rem"
            problem={(v) => (v >= 0 ? undefined : "It must be at least 0.")}
            onChange={setR}
          />
        </span>
        <span className="text-[12px] text-quiet">
          bend angle
          <br />
          <NumberBox
            label="Bend angle to try"
            value={angle}
            dimension="angle"
            width="6rem"
            problem={(v) => (v > 0 && v < 360 ? undefined : "It must be more than 0° and less than 360°.")}
            onChange={setAngle}
          />
        </span>
      </div>
      {!answer ? (
        <p className="mt-2 text-quiet">It answers when what is wrong with the chart is mended.</p>
      ) : (
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
            to={`/study?t=${t}&r=${r}&angle=${angle}&chart=${chart.id}`}
          >
            See this bend in the Bend study
          </Link>
        </div>
      )}
    </section>
  );
}

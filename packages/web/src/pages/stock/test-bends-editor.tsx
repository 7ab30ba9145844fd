import {
  type BendChart,
  bendAllowance,
  type CalibrationFit,
  type Coupon,
  calibrate,
  couponNumbers,
  couponShape,
  formatFixed,
  formatShort,
  ITEM_FIELDS,
  type RowsField,
  type StockItem,
  studentQuantile,
  type TestBends,
  tableFromFits,
  toRadians,
  type Why,
} from "@hillcrest/core";
import { useMemo } from "react";
import { useNavigate } from "react-router";
import { FieldView } from "../../fields/field-view.tsx";
import { WithNestedFields } from "../../fields/nested-field.tsx";
import { RowsTable } from "../../fields/rows-view.tsx";
import { editItem, freshItemId } from "../../state/stock.ts";
import { Button } from "../../ui/button.tsx";
import { FindingMark } from "../../ui/finding-mark.tsx";
import { Plot, type Series } from "../../ui/plot.tsx";
import { WhyNumber } from "../../ui/why-card.tsx";
import { ItemForm } from "./item-form.tsx";

interface TestBendsEditorProps {
  readonly set: TestBends;
  readonly onChange: (item: StockItem, mark?: string) => void;
}

const COUPONS = ITEM_FIELDS.testBends.find((f): f is RowsField => f.kind === "rows")!;

const fitName = (f: Pick<CalibrationFit, "thickness" | "radius" | "die">) =>
  `t ${formatShort(f.thickness)}, r ${formatShort(f.radius)}${f.die ? `, ${f.die}` : ""}`;

/** Coupons as measured, what each says, what they say together, and a chart made from them. */
export function TestBendsEditor({ set, onChange }: TestBendsEditorProps) {
  const navigate = useNavigate();
  const fits = useMemo(() => calibrate(set.coupons, set.error), [set]);
  const outliers = new Set(fits.flatMap((f) => f.residuals.filter((r) => r.outlier).map((r) => r.key)));
  const make = () => {
    const name = `${set.name}: chart`.slice(0, 100);
    const id = freshItemId("charts", name);
    const chart: BendChart = {
      id,
      name,
      note: `K by least squares from the test bends “${set.name}”. ${set.note}`.trim().slice(0, 2000),
      starting: false,
      reason: "",
      rule: tableFromFits(fits),
      testBends: set.id,
    };
    editItem("charts", chart);
    navigate(`/stock/charts/${id}`);
  };
  return (
    <div className="space-y-5">
      <div className="flex flex-wrap gap-x-12 gap-y-2">
        <ItemForm section="testBends" item={set} onChange={onChange} only={["name", "error"]} />
        <ItemForm section="testBends" item={set} onChange={onChange} only={["note"]} />
      </div>
      <section>
        <h3 className="mb-1 font-bold">Coupons</h3>
        <WithNestedFields value={FieldView}>
          <RowsTable
            field={COUPONS}
            rows={set.coupons as unknown as readonly Readonly<Record<string, unknown>>[]}
            dim={(row) => row.leftOut === true}
            onChange={(rows, mark) => onChange({ ...set, coupons: rows as Coupon[] }, mark && `c:${mark}`)}
            more={["BA", "BD", "±", "K", "± K", ""].map((title) => ({
              title,
              cell: (row) => (
                <CouponCell
                  coupon={row as unknown as Coupon}
                  error={set.error}
                  what={title}
                  outliers={outliers}
                />
              ),
            }))}
          />
        </WithNestedFields>
      </section>
      {fits.length > 0 && (
        <section>
          <div className="mb-1 flex items-center gap-4">
            <h3 className="font-bold">What they say together</h3>
            <Button kind="primary" data-make-chart onClick={make}>
              Make a chart from these
            </Button>
          </div>
          <FitTable fits={fits} set={set} />
          <FitPlots fits={fits} set={set} />
        </section>
      )}
    </div>
  );
}

interface CouponCellProps {
  readonly coupon: Coupon;
  readonly error: number;
  readonly what: string;
  readonly outliers: ReadonlySet<string>;
}

function CouponCell({ coupon, error, what, outliers }: CouponCellProps) {
  const numbers = couponNumbers(coupon, error);
  if (!numbers.ok)
    return what === "BA" ? (
      <span className="font-sans whitespace-normal text-stop" title={numbers.error}>
        <FindingMark level="stop" /> {numbers.error.split(".")[0]}
      </span>
    ) : null;
  const { allowance, deduction, k, spread, kSpread } = numbers.value;
  switch (what) {
    case "BA":
      return formatFixed(allowance, 3);
    case "BD":
      return deduction === undefined ? "none" : formatFixed(deduction, 3);
    case "±":
      return <span className="text-quiet">{formatFixed(spread, 3)}</span>;
    case "± K":
      return <span className="text-quiet">{formatFixed(kSpread, 3)}</span>;
    case "K":
      return (
        <WhyNumber text={formatFixed(k, 3)} label="K of this coupon" why={() => whyCoupon(coupon, error)} />
      );
    default:
      return outliers.has(coupon.key) ? (
        <span
          className="font-sans text-warn"
          title="It stands too far from what the others of its group say."
        >
          ◆ off
        </span>
      ) : null;
  }
}

function whyCoupon(coupon: Coupon, error: number): Why {
  const numbers = couponNumbers(coupon, error);
  if (!numbers.ok) return { title: "K of this coupon", result: "nothing", lines: [{ text: numbers.error }] };
  const { allowance, k, spread, kSpread } = numbers.value;
  const { t, r, angle } = couponShape(coupon);
  const n = (v: number) => formatShort(v, 4);
  const behind = (coupon.legA + coupon.legB + allowance - coupon.before) / 2;
  const to = {
    "outer mould points": "tan(θ/2)·(r + t)",
    "inner mould points": "tan(θ/2)·r",
    "outermost tangents": coupon.angle >= 90 ? "r + t" : "tan(θ/2)·(r + t)",
  }[coupon.measured];
  return {
    title: "K of this coupon",
    result: `${formatFixed(k, 4)} ±${formatFixed(kSpread, 4)}`,
    lines: [
      { text: `setback = ${to} = ${n(behind)}`, source: `legs to the ${coupon.measured}` },
      {
        text: `BA = before − A − B + 2·setback = ${n(coupon.before)} − ${n(coupon.legA)} − ${n(coupon.legB)} + ${n(2 * behind)} = ${n(allowance)}`,
      },
      { text: `K = (BA/θ − r)/t = (${n(allowance)}/${n(angle)} − ${n(r)})/${n(t)} = ${n(k)}` },
      {
        text: `three lengths, each ±${n(error)}: ±${n(error)}·√3 = ±${n(spread)} in BA, over θ·t ±${n(kSpread)} in K`,
      },
    ],
  };
}

function FitTable({ fits, set }: { fits: readonly CalibrationFit[]; set: TestBends }) {
  const right = "num py-0.5 pl-5 text-right";
  return (
    <table className="text-[12.5px]" data-fits>
      <thead className="text-quiet">
        <tr className="border-b border-hairline">
          <th className="py-1 text-left font-medium">thickness, radius, die</th>
          {["coupons", "angles", "K", "95 % interval", "BA at 90°", "scatter", ""].map((h) => (
            <th key={h} className={`${right} font-sans font-medium`}>
              {h}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {fits.map((f) => {
          const t90 = { t: f.thickness, r: f.radius, angle: Math.PI / 2 };
          const out = f.residuals.filter((r) => r.outlier).length;
          return (
            <tr key={fitName(f)} className="h-7 border-b border-hairline/60">
              <td className="py-0.5">{fitName(f)}</td>
              <td className={right}>{f.residuals.length}</td>
              <td className={right}>
                {formatShort(f.angles.least, 1)}°–{formatShort(f.angles.greatest, 1)}°
              </td>
              <td className={`${right} font-semibold`} data-fit-k>
                <WhyNumber
                  text={formatFixed(f.k, 4)}
                  label={`K of ${fitName(f)}`}
                  why={() => whyFit(f, set)}
                />
              </td>
              <td className={right}>
                {f.kInterval === undefined ? "takes two" : `±${formatFixed(f.kInterval, 4)}`}
              </td>
              <td className={right}>{formatFixed(bendAllowance(t90, f.k), 3)}</td>
              <td className={right}>
                {f.deviation === undefined ? "" : `${formatFixed(f.deviation, 3)} mm`}
              </td>
              <td className="py-0.5 pl-5">
                {out > 0 && (
                  <span className="text-warn">
                    <FindingMark level="warn" /> {out === 1 ? "1 stands out" : `${out} stand out`}: measure
                    again, or leave it out{" "}
                  </span>
                )}
                {f.mixedGrain && <span className="text-quiet">along and across the grain together</span>}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

function whyFit(f: CalibrationFit, set: TestBends): Why {
  const count = f.residuals.length;
  return {
    title: `K of ${fitName(f)}`,
    result: formatFixed(f.k, 4),
    lines: [
      { text: "K = Σ θt·(BA − θr) / Σ (θt)²", source: "least squares of BA = θ(r + K·t)" },
      ...f.residuals.slice(0, 12).map((r) => ({
        text: `${formatShort(r.angle, 2)}°: BA ${formatFixed(r.allowance, 3)}, off by ${formatFixed(r.residual, 3)}`,
        source: `coupon ${set.coupons.findIndex((c) => c.key === r.key) + 1}`,
      })),
      ...(f.kInterval === undefined
        ? []
        : [
            {
              text: `95 %: ±t·s/√Σ(θt)² with t = ${formatFixed(studentQuantile(0.975, count - 1), 3)}, s = ${formatFixed(f.deviation ?? 0, 4)} mm: ±${formatFixed(f.kInterval, 4)}`,
              source: `Student's t, ${count - 1} degrees of freedom`,
            },
          ]),
    ],
  };
}

const INKS = ["bend-up", "bend-down", "moss", "amber", "stop", "quiet"] as const;
const MARKS = ["circle", "rectRot", "triangle", "cross"] as const;

/** Measured allowances about the fitted lines, and what is left over. */
function FitPlots({ fits, set }: { fits: readonly CalibrationFit[]; set: TestBends }) {
  const { fit, rest } = useMemo(() => plotsOf(fits, set), [fits, set]);
  return (
    <div className="mt-3 grid max-w-[1000px] grid-cols-2 gap-6">
      <div>
        <h4 className="text-[12px] font-semibold text-quiet">BA over the angle: measured, and as fitted</h4>
        <Plot
          title="Bend allowance over the angle, measured and fitted"
          series={fit}
          x="bend angle, °"
          y="BA, mm"
          className="h-64"
        />
      </div>
      <div>
        <h4 className="text-[12px] font-semibold text-quiet">
          What is left over; dashed: ± what measuring alone would scatter
        </h4>
        <Plot
          title="Residuals over the angle"
          series={rest}
          x="bend angle, °"
          y="off by, mm"
          className="h-64"
        />
      </div>
    </div>
  );
}

function plotsOf(fits: readonly CalibrationFit[], set: TestBends): { fit: Series[]; rest: Series[] } {
  const fit: Series[] = [];
  const rest: Series[] = [];
  let least = 180;
  let most = 0;
  fits.forEach((f, i) => {
    const ink = INKS[i % INKS.length];
    const marks = MARKS[i % MARKS.length];
    const { least: from, greatest: to } = f.angles;
    least = Math.min(least, from);
    most = Math.max(most, to);
    const at = (degrees: number) => ({
      x: degrees,
      y: bendAllowance({ t: f.thickness, r: f.radius, angle: toRadians(degrees) }, f.k),
    });
    const label = fitName(f);
    fit.push({ label, ink, points: [at(from), at(to)] });
    fit.push({
      label,
      ink,
      marks,
      silent: true,
      points: f.residuals.map((r) => ({ x: r.angle, y: r.allowance })),
    });
    rest.push({ label, ink, marks, points: f.residuals.map((r) => ({ x: r.angle, y: r.residual })) });
    const out = f.residuals.filter((r) => r.outlier).map((r) => ({ x: r.angle, y: r.residual }));
    if (out.length > 0) rest.push({ label: "stands out", ink: "warn", marks: "cross", size: 9, points: out });
  });
  const spread = Math.sqrt(3) * set.error;
  for (const y of [spread, -spread])
    rest.push({
      label: "measuring error",
      ink: "quiet",
      dash: [5, 4],
      width: 1,
      silent: true,
      points: [
        { x: least, y },
        { x: most, y },
      ],
    });
  return { fit, rest };
}

import {
  ANGLE_UNITS,
  type BendChart,
  type BendRow,
  type CardSnapshot,
  cardOf,
  type Dimension,
  followStudy,
  formatFixed,
  formatShort,
  type PartBuild,
  type PartDocument,
  type StudyGiven,
  type StudyResult,
  type StudyUnknown,
  sayLengths,
  sayOutside,
  solveStudy,
  toDegrees,
  type Why,
} from "@hillcrest/core";
import { Copy } from "lucide-react";
import { Slider } from "radix-ui";
import { useEffect, useMemo, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { type PartEntry, partsApi } from "../../api/parts-api.ts";
import { stockApi } from "../../api/stock-api.ts";
import { useItems, useStock } from "../../state/stock.ts";
import { stockActions } from "../../state/stock-slice.ts";
import { useApp, useSend } from "../../state/store.ts";
import { Button } from "../../ui/button.tsx";
import { FindingMark } from "../../ui/finding-mark.tsx";
import { NumberBox } from "../../ui/number-box.tsx";
import { PageHead } from "../../ui/page-head.tsx";
import { useTheme, useTitle } from "../../ui/theme.ts";
import { WhyNumber } from "../../ui/why-card.tsx";
import { requestBuild } from "../../worker/build-client.ts";
import { byChart, DIN, type FoundBy, type Method, OWN_K, unreadChart } from "./study-methods.ts";
import { StudyPlot } from "./study-plot.tsx";
import { StudySection } from "./study-section.tsx";

/** What is entered on the page: lengths in mm, the angle in degrees as a part's field has it. */
interface Entered {
  readonly t: number;
  readonly r: number;
  readonly degrees: number;
  /** A part's own angle in radians, for as long as its degrees stand: typed back it could lose a digit. */
  readonly exact?: { readonly degrees: number; readonly angle: number };
  readonly k: number;
  readonly legA: number;
  readonly legB: number;
  readonly method: Method;
}

const START: Entered = { t: 1.5, r: 1.5, degrees: 90, k: 0.42, legA: 42, legB: 40, method: "own" };

/** The part and the bend that the study was opened from. */
interface Origin {
  readonly id: string;
  readonly document: PartDocument;
  readonly build: PartBuild;
  readonly row: BendRow;
}

/** One bend's section, live: every length from thickness, radius, angle and K, and back. */
export function StudyPage() {
  useTheme();
  useStock();
  useTitle("Bend study");
  const [params] = useSearchParams();
  const [entered, setEntered] = useState<Entered>(() => fromAddress(params));
  const [origin, setOrigin] = useState<Origin>();
  const [problem, setProblem] = useState<string>();
  const noCharts = useApp((s) => s.stock.problem);
  const [own, setOwn] = useState<CardSnapshot>();
  const part = params.get("part");
  const bend = params.get("bend");
  const card = params.get("card");
  useEffect(() => {
    setProblem(undefined);
    if (!part) return setOrigin(undefined);
    let left = false;
    partsApi
      .read(part)
      .then(async ({ id, document }) => {
        const outcome = await requestBuild(id, document);
        if (left || outcome.kind === "cancelled") return;
        if (outcome.kind !== "result") return setProblem(outcome.message);
        const { build } = outcome.value;
        const row = build.bends.find((b) => b.id === bend) ?? build.bends[0];
        if (!row) return setProblem(`“${document.name}” has no bend to study yet.`);
        setOrigin({ id, document, build, row });
        setOwn(cardOf(document.stock));
        setEntered((old) => ({ ...old, ...ofBend(document, build, row) }));
      })
      .catch((error) => !left && setProblem((error as Error).message));
    return () => {
      left = true;
    };
  }, [part, bend]);
  useEffect(() => {
    if (!card) return;
    let left = false;
    stockApi
      .snapshot(card)
      .then((snapshot) => {
        if (left) return;
        setOwn(snapshot);
        const method = `chart:${snapshot.chart.id}` as const;
        setEntered((old) => ({ ...old, t: snapshot.thickness, r: snapshot.radii[0], method }));
      })
      .catch((error) => !left && setProblem((error as Error).message));
    return () => {
      left = true;
    };
  }, [card]);
  const methods = useMethods(own, entered.method);
  const angle =
    entered.exact?.degrees === entered.degrees ? entered.exact.angle : entered.degrees * ANGLE_UNITS.deg;
  const shape = { t: entered.t, r: entered.r, angle };
  const found = methods.find((m) => m.method === entered.method) ?? OWN_K(entered.k);
  const answer = found.find(shape);
  const given: StudyGiven = { ...shape, k: answer.k, legA: entered.legA, legB: entered.legB };
  const follows = followStudy(given);
  const set = (more: Partial<Entered>) => setEntered({ ...entered, ...more });
  const setK = (k: number) => set({ k, method: "own" });
  return (
    <div className="flex h-full flex-col overflow-hidden">
      <PageHead here="Bend study">
        <span className="grow" />
        <UseInPart origin={origin} given={given} degrees={entered.degrees} method={found} />
      </PageHead>
      {noCharts && !problem && (
        <p role="alert" className="border-b border-hairline bg-panel px-4 py-2">
          <FindingMark level="warn" /> The shop's charts cannot be read, so only K and DIN 6935 are there.{" "}
          {noCharts}
        </p>
      )}
      {problem && (
        <p role="alert" className="border-b border-hairline bg-panel px-4 py-2">
          <FindingMark level="stop" /> {problem}
        </p>
      )}
      <div className="flex min-h-0 grow">
        <div className="min-w-0 grow p-2">
          <StudySection given={given} follows={follows} onK={setK} />
        </div>
        <aside className="scroll-quiet w-[380px] shrink-0 space-y-5 overflow-auto border-l border-hairline bg-panel p-4">
          <Given entered={entered} k={answer.k} methods={methods} onSet={set} onK={setK} />
          {answer.source.outside && (
            <p data-outside>
              <FindingMark level="warn" /> {sayLengths(sayOutside(answer.source.outside))}
            </p>
          )}
          <Follows
            given={given}
            found={found}
            lines={answer.source.lines}
            onSolved={(unknown, value) => set(solved(unknown, value))}
          />
          <StudyPlot t={entered.t} r={entered.r} degrees={entered.degrees} now={found} methods={methods} />
        </aside>
      </div>
    </div>
  );
}

function fromAddress(params: URLSearchParams): Entered {
  const number = (key: string, fallback: number, least: number) => {
    const v = params.has(key) ? Number(params.get(key)) : Number.NaN;
    return Number.isFinite(v) && v >= least ? v : fallback;
  };
  const chart = params.get("chart");
  return {
    ...START,
    t: number("t", START.t, 0.01),
    r: number("r", START.r, 0),
    degrees: number("angle", START.degrees, 0.1),
    k: number("k", START.k, -5),
    method: chart ? `chart:${chart}` : START.method,
  };
}

/** A bend of a part as the study enters it: by the same chart or the same K. */
function ofBend(document: PartDocument, build: PartBuild, row: BendRow): Partial<Entered> {
  const card = cardOf(document.stock);
  const shape = { t: build.stock!.thickness, r: row.radius, angle: row.angle };
  const byCard = card && row.byStock && document.stock.flatBy === undefined;
  const byDin = document.stock.flatBy === "DIN 6935" && row.byStock;
  const degrees = Number(toDegrees(row.angle).toFixed(9));
  return {
    t: shape.t,
    r: row.radius,
    degrees,
    exact: { degrees, angle: row.angle },
    k: row.k,
    method: byCard ? `chart:${card.chart.id}` : byDin ? "DIN 6935" : "own",
  };
}

/** The ways to find K: the standard, and the shop's charts, of which `wanted` is read whole when it is very long. */
function useMethods(own: CardSnapshot | undefined, wanted: Method): readonly FoundBy[] {
  const charts = useItems("charts");
  const drafts = useApp((s) => s.stock.drafts);
  const send = useSend();
  const unread = charts.find((c) => `chart:${c.id}` === wanted && !isRead(c) && own?.chart.id !== c.id)?.id;
  useEffect(() => {
    if (unread)
      stockApi
        .read("charts", unread)
        .then((entry) => send(stockActions.entryRead(entry)))
        .catch((error) => send(stockActions.stockFailed((error as Error).message)));
  }, [unread, send]);
  return useMemo(() => {
    // A part's own state of a chart goes before what the stock says by now, unless that is being changed.
    const all = charts.map((c) => (own?.chart.id === c.id && !drafts[`charts/${c.id}`] ? own.chart : c));
    const carried = own && !charts.some((c) => c.id === own.chart.id) ? [own.chart] : [];
    const named = [...all, ...carried];
    const standard = named.some((c) => c.rule.method === "DIN 6935") ? [] : [DIN];
    return [...standard, ...named.map((c) => (isRead(c) ? byChart(c) : unreadChart(c)))];
  }, [charts, own, drafts]);
}

const isRead = ({ rule }: BendChart): boolean => rule.method !== "table" || rule.rows.length > 0;

const solved = (unknown: StudyUnknown, value: number): Partial<Entered> => {
  if (unknown === "angle") return { degrees: value / ANGLE_UNITS.deg };
  return unknown === "k" ? { k: value, method: "own" } : { [unknown]: value };
};

interface GivenProps {
  readonly entered: Entered;
  readonly k: number;
  readonly methods: readonly FoundBy[];
  readonly onSet: (more: Partial<Entered>) => void;
  readonly onK: (k: number) => void;
}

function Given({ entered, k, methods, onSet, onK }: GivenProps) {
  const above = (v: number) => (v > 0 ? undefined : "It must be more than 0.");
  const least = (v: number) => (v >= 0 ? undefined : "It must be at least 0.");
  return (
    <section className="space-y-2.5">
      <h2 className="font-bold">One bend</h2>
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
      {(k < 0 || k > 1) && (
        <p>
          <FindingMark level="warn" /> K {formatShort(k, 4)} lies outside 0 to 1, where no sheet has its
          neutral axis.
        </p>
      )}
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

function Follows({ given, found, lines, onSolved }: FollowsProps) {
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
  const setback = f.outerSetback ?? r + t;
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

interface UseInPartProps {
  readonly origin?: Origin;
  readonly given: StudyGiven;
  readonly degrees: number;
  readonly method: FoundBy;
}

/** Chooses the part and bend that the study is about, and takes its values over there. */
function UseInPart({ origin, given, degrees, method }: UseInPartProps) {
  const navigate = useNavigate();
  const [parts, setParts] = useState<readonly PartEntry[]>();
  useEffect(() => {
    partsApi
      .list(false)
      .then((all) => setParts(all.filter((p) => (p.summary?.bends ?? 0) > 0)))
      .catch(() => setParts([]));
  }, []);
  const box = "max-w-52 rounded border border-hairline bg-raised px-1.5 py-1";
  const use = () => {
    if (!origin) return;
    const { row, document } = origin;
    const change: Record<string, unknown> = {};
    if (given.r !== row.radius) change.radius = String(given.r);
    if (Math.abs(degrees - toDegrees(row.angle)) > 1e-9) change.angle = String(degrees);
    if (given.k !== row.k) change.k = String(given.k);
    if (Object.keys(change).length > 0)
      change.reason = method.method === "own" ? "from the bend study" : `by ${method.name}`;
    navigate(`/parts/${origin.id}`, { state: { bendChange: { bend: row.id, change }, name: document.name } });
  };
  const other = origin && Math.abs(given.t - (origin.build.stock?.thickness ?? 0)) > 1e-9;
  return (
    <div className="flex items-center gap-2">
      <select
        aria-label="Part"
        className={box}
        value={origin?.id ?? ""}
        onChange={(e) => navigate(e.currentTarget.value ? `/study?part=${e.currentTarget.value}` : "/study")}
      >
        <option value="">no part</option>
        {parts?.map((p) => (
          <option key={p.id} value={p.id}>
            {p.name}
          </option>
        ))}
      </select>
      {origin && (
        <select
          aria-label="Bend"
          className={box}
          value={origin.row.id}
          onChange={(e) => navigate(`/study?part=${origin.id}&bend=${e.currentTarget.value}`)}
        >
          {origin.build.bends.map((b) => (
            <option key={b.id} value={b.id}>
              bend {b.number}, {b.between.join(" / ")}
            </option>
          ))}
        </select>
      )}
      <Button
        kind="primary"
        data-use
        disabled={!origin || other}
        title={
          !origin
            ? "Choose a part first"
            : other
              ? "The part has another thickness: change its stock there"
              : "Give this bend these values, as a step of the part"
        }
        onClick={use}
      >
        Use in this part
      </Button>
    </div>
  );
}

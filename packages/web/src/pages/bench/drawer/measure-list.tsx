import {
  clearanceBetween,
  evenState,
  type Face,
  type FindingPiece,
  foldSheet,
  formatShort,
  lengthText,
  type Measure,
  type Measured,
  type MeasureEnd,
  type MeasureFaces,
  measureBetween,
  type PartBuild,
  toDegrees,
  unitName,
  whyDistance,
} from "@hillcrest/core";
import { useEffect, useMemo, useState } from "react";
import { openBuild } from "../../../state/build-slice.ts";
import { setPartValues } from "../../../state/edits.ts";
import { useLabels } from "../../../state/labels.ts";
import { openPart } from "../../../state/part-slice.ts";
import { useApp, useSend } from "../../../state/store.ts";
import { useUnits } from "../../../state/units.ts";
import { type Pick, viewActions } from "../../../state/view-slice.ts";
import { WhyNumber } from "../../../ui/why-card.tsx";
import { pickOfPiece, pickTitle } from "../../../views/pick-names.ts";
import { useFolding } from "../../../views/use-folding.ts";
import { requestGap } from "../../../worker/check-client.ts";
import type { PartGap } from "../../../worker/check-worker.ts";

const NONE: readonly Measure[] = [];

const endOf = (p: Pick): MeasureEnd => {
  if (p.kind === "edge" || p.kind === "corner") return { kind: p.kind, name: p.name };
  if (p.kind === "hole") return { kind: "hole", name: `${p.plate} ${p.key}` };
  return { kind: p.kind, name: p.id };
};

const pickOfEnd = ({ kind, name }: MeasureEnd): Pick => {
  if (kind === "edge" || kind === "corner") return { kind, name };
  if (kind === "hole") return { kind, plate: name.split(" ")[0], key: name.split(" ")[1] };
  return kind === "plate" ? { kind, id: name, x: 0, y: 0 } : { kind, id: name };
};

/** Distances and angles between picked things, live; those that are pinned stay with the part. */
export function MeasureList() {
  const picks = useApp((s) => s.view.measured);
  const pinned = useApp((s) => openPart(s).document?.measures ?? NONE);
  const [faces, setFaces] = useState<MeasureFaces>("inner");
  const now: Measure | undefined =
    picks.length === 2 ? { key: "now", from: endOf(picks[0]), to: endOf(picks[1]), faces } : undefined;
  const same = (m: Measure) => JSON.stringify([m.from, m.to]) === JSON.stringify([now?.from, now?.to]);
  return (
    <div className="scroll-quiet grow overflow-auto px-3.5 py-1 text-[12.5px]">
      <WholeGap />
      {!now && (
        <p className="py-1.5 text-quiet">
          {picks.length === 1
            ? "And to what? Click an edge, corner, hole, plate or bend."
            : "Click two things, in either view: edges, corners, holes, plates or bends."}
        </p>
      )}
      <table>
        <thead className="text-left text-quiet">
          <tr>
            {["from", "", "to", "", "distance", "between", "angle", "along the sheet", "least gap", ""].map(
              (h, i) => (
                <th key={i} className="pr-4 font-medium">
                  {h}
                </th>
              ),
            )}
          </tr>
        </thead>
        <tbody>
          {now && !pinned.some(same) && <Row measure={now} onFaces={setFaces} />}
          {pinned.map((m) => (
            <Row key={m.key} measure={m} pinned />
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Where the part comes nearest to itself at the dial's place, live; the two can be measured like any others. */
function WholeGap() {
  const send = useSend();
  const units = useUnits();
  const labels = useLabels();
  const part = useApp((s) => openPart(s).id);
  const document = useApp((s) => openBuild(s).document);
  const build = useApp((s) => openBuild(s).shown?.build);
  const held = useApp((s) => openPart(s).document?.held ?? NOTHING_HELD);
  const share = useApp((s) => s.view.fold);
  const [answer, setAnswer] = useState<{ readonly gap?: PartGap; readonly failed?: string }>();
  useEffect(() => {
    let wanted = true;
    if (part === undefined || !document) return;
    void requestGap(part, { document, share, held }).then((outcome) => {
      if (!wanted || outcome.kind === "cancelled") return;
      setAnswer(outcome.kind === "result" ? { gap: outcome.value } : { failed: outcome.message });
    });
    return () => {
      wanted = false;
    };
  }, [part, document, share, held]);
  if (!build?.sheet) return null;
  const title = (p: FindingPiece) => pickTitle(pickOfPiece(p), build, labels).join(" ");
  const { gap, failed } = answer ?? {};
  return (
    <p className="flex items-baseline gap-2 border-b border-hairline/60 py-1.5" data-whole-gap>
      <span className="text-quiet">Least gap of the part with itself</span>
      {failed !== undefined && <span className="text-warn">could not be found: {failed}</span>}
      {!answer && <span className="text-quiet">looking …</span>}
      {answer && !gap && failed === undefined && (
        <span className="text-quiet">none: nothing in it comes near anything that it does not hang on</span>
      )}
      {gap && (
        <>
          <span className="num font-semibold">
            {lengthText(gap.distance, units, 3)} {unitName(units)}
          </span>
          <span>
            {title(gap.pieces[0])} to {title(gap.pieces[1])}
          </span>
          <button
            type="button"
            className="font-semibold text-moss hover:underline"
            onClick={() =>
              send(viewActions.bothMeasured([pickOfPiece(gap.pieces[0]), pickOfPiece(gap.pieces[1])]))
            }
          >
            show
          </button>
        </>
      )}
    </p>
  );
}

const NOTHING_HELD: readonly string[] = [];

const FACES: readonly { value: MeasureFaces; label: string }[] = [
  { value: "inner", label: "inner faces" },
  { value: "outer", label: "outer faces" },
  { value: "middle", label: "middle to middle" },
];

interface RowProps {
  readonly measure: Measure;
  readonly pinned?: boolean;
  /** How another choice of faces is kept, when it is not with the part. */
  readonly onFaces?: (faces: MeasureFaces) => void;
}

function Row({ measure, pinned, onFaces }: RowProps) {
  const build = useApp((s) => openBuild(s).shown?.build);
  const document = useApp((s) => openPart(s).document);
  const labels = useLabels();
  const folding = useFolding(build);
  const values = useMemo(() => {
    if (!build?.sheet || !folding) return undefined;
    const folded = measureBetween(build.sheet, folding, measure.from, measure.to, measure.faces);
    const flat = foldSheet(build.sheet, evenState(build.sheet, 0));
    const gap = clearanceBetween(build.sheet, folding, measure.from, measure.to)?.distance;
    return (
      folded && {
        ...folded,
        gap,
        flat: measureBetween(build.sheet, flat, measure.from, measure.to)?.alongSheet,
      }
    );
  }, [build, folding, measure]);
  if (!build) return null;
  const title = (end: MeasureEnd) => pickTitle(pickOfEnd(end), build, labels).join(" ");
  const all = document?.measures ?? NONE;
  const put = (next: Measure) =>
    setPartValues({
      measures: pinned ? all.map((m) => (m.key === next.key ? next : m)) : [...all, next],
    });
  const drop = () => {
    const rest = all.filter((m) => m.key !== measure.key);
    setPartValues({ measures: rest.length > 0 ? rest : undefined });
  };
  return (
    <tr data-measure={measure.key} className="border-t border-hairline/60">
      <td className="py-1 pr-1">{title(measure.from)}</td>
      <td className="pr-4">
        <FaceChoice end={measure.from} pinned={pinned} onChange={(from) => put({ ...measure, from })} />
      </td>
      <td className="pr-1">{title(measure.to)}</td>
      <td className="pr-4">
        <FaceChoice end={measure.to} pinned={pinned} onChange={(to) => put({ ...measure, to })} />
      </td>
      {values ? (
        <Measurements
          values={values}
          build={build}
          faces={measure.faces ?? "inner"}
          onFaces={(faces) => (onFaces ? onFaces(faces) : put({ ...measure, faces }))}
        />
      ) : (
        <td colSpan={5} className="pr-4 text-quiet">
          not on the part as it is now
        </td>
      )}
      <td>
        <button
          type="button"
          className="font-semibold text-moss hover:underline"
          onClick={() => (pinned ? drop() : put({ ...measure, key: `m${Date.now().toString(36)}` }))}
        >
          {pinned ? "let go" : "pin"}
        </button>
      </td>
    </tr>
  );
}

interface MeasurementsProps {
  /** `gap`: how near the metal of two plates or bends comes, mm. */
  readonly values: Measured & { readonly flat?: number; readonly gap?: number };
  readonly build: PartBuild;
  readonly faces: MeasureFaces;
  readonly onFaces: (faces: MeasureFaces) => void;
}

/** What was measured: the distance and between which faces, the angle, the way along the flat sheet. */
function Measurements({ values, build, faces, onFaces }: MeasurementsProps) {
  const document = useApp((s) => openPart(s).document);
  const units = useUnits();
  return (
    <>
      <td className="num pr-4 font-semibold" data-distance>
        <WhyNumber
          text={`${lengthText(values.distance, units, 3)} ${unitName(units)}`}
          label="distance"
          why={() => whyDistance(document!, build, values)}
        />
      </td>
      <td className="pr-4" data-faces={values.faces.join()}>
        <select
          aria-label="Between which faces"
          className="rounded border border-hairline bg-raised px-1 text-[12px]"
          value={faces}
          onChange={(e) => onFaces(e.currentTarget.value as MeasureFaces)}
        >
          {FACES.map((f) => (
            <option key={f.value} value={f.value}>
              {f.label}
            </option>
          ))}
        </select>{" "}
        <span className="text-quiet">{saidFaces(values.faces)}</span>
      </td>
      <td className="num pr-4">
        {values.angle === undefined ? "" : `${formatShort(toDegrees(values.angle), 3)}°`}
      </td>
      <td className="num pr-4">
        {values.flat === undefined ? "" : `${lengthText(values.flat, units, 3)} ${unitName(units)}`}
      </td>
      <td className="num pr-4" data-gap title="The least distance between the metal of the two">
        {values.gap === undefined ? "" : `${lengthText(values.gap, units, 3)} ${unitName(units)}`}
      </td>
    </>
  );
}

/** The faces that a distance was found between, in words. */
function saidFaces([from, to]: readonly [Face, Face]): string {
  const side = (f: Face) => (f === "middle" ? "the middle" : `side ${f}`);
  return from === to ? `${side(from)} both` : `${side(from)} to ${side(to)}`;
}

/** Which face is measured from: as the measurement says, side A, side B or the middle. */
function FaceChoice({
  end,
  pinned,
  onChange,
}: {
  end: MeasureEnd;
  pinned?: boolean;
  onChange: (end: MeasureEnd) => void;
}) {
  if (!pinned) return null;
  return (
    <select
      aria-label="Face"
      className="rounded border border-hairline bg-raised px-1 text-[12px]"
      value={end.face ?? ""}
      onChange={(e) => {
        const { face: _face, ...rest } = end;
        onChange(e.currentTarget.value ? { ...rest, face: e.currentTarget.value as Face } : rest);
      }}
    >
      <option value="">as chosen</option>
      <option value="A">side A</option>
      <option value="B">side B</option>
      <option value="middle">middle</option>
    </select>
  );
}

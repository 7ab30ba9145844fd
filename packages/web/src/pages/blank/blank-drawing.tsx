import {
  type Bounds,
  bendList,
  type Comparison,
  type Curve,
  cornersOf,
  DEFAULT_SHOWS,
  type DrawnContent,
  formatShort,
  type InTheWay,
  inTheWay,
  lengthText,
  type NoteBox,
  type NoteWish,
  type PartBuild,
  type PartDocument,
  placeNotes,
  placesAlong,
  shortLength,
  toDegrees,
} from "@hillcrest/core";
import { memo, useMemo } from "react";
import { OverallSize } from "../../views/blank/overall-size.tsx";
import { Dimensions } from "./blank-dimensions.tsx";
import type { BlankDrawingProps } from "./blank-drawing-props.ts";
import { extraLines, type Place, pathOf, type SheetDrawn } from "./sheet-geometry.ts";

const PEN = { vectorEffect: "non-scaling-stroke" } as const;

/** The blank as it lies with everything that is shown on it; the same on the page and on paper. */
export function BlankDrawing(props: BlankDrawingProps) {
  const { drawn, settings, transform, comparison, beneath = false } = props;
  const shows = new Set(settings.shows ?? DEFAULT_SHOWS);
  return (
    <>
      <g transform={transform}>
        <Metal drawn={drawn} beneath={beneath} />
        <Extras {...props} />
        {shows.has("bends") && <BendLines drawn={drawn} />}
      </g>
      <Labels
        {...props}
        letters={shows.has("letters")}
        numbers={shows.has("numbers") || shows.has("notes")}
        full={shows.has("notes")}
      />
      {shows.has("ordinates") && <Ordinates {...props} />}
      <OverallSize bounds={drawn.placed.blank.bounds} place={props.place} beside={30} />
      {shows.has("grain") && <Grain {...props} />}
      <Dimensions {...props} />
      {comparison && <Differences {...props} comparison={comparison} />}
    </>
  );
}

const Metal = memo(function Metal({ drawn, beneath }: { drawn: SheetDrawn; beneath: boolean }) {
  return (
    <>
      {!beneath && (
        <path
          data-metal
          d={drawn.outline()}
          fill="var(--blank)"
          fillRule="evenodd"
          stroke="var(--ink)"
          strokeWidth={1.5}
          {...PEN}
        />
      )}
      {drawn.slits && <path d={drawn.slits} fill="none" stroke="var(--ink)" strokeWidth={1.5} {...PEN} />}
      {drawn.marks && (
        <path data-marks d={drawn.marks} fill="none" stroke="var(--moss)" strokeWidth={1.2} {...PEN} />
      )}
      {drawn.overlaps && (
        <path
          data-overlaps
          d={drawn.overlaps}
          fill="var(--stop)"
          fillOpacity={0.35}
          stroke="var(--stop)"
          strokeWidth={2}
          {...PEN}
        />
      )}
    </>
  );
});

const BendLines = memo(function BendLines({ drawn }: { drawn: SheetDrawn }) {
  return drawn.bends.map(({ id, up, path }) => (
    <path
      key={id}
      data-bend-line={up ? "up" : "down"}
      d={path}
      fill="none"
      stroke={up ? "var(--bend-up)" : "var(--bend-down)"}
      strokeWidth={1.5}
      strokeDasharray={up ? undefined : "7 4"}
      {...PEN}
    />
  ));
});

const EXTRA_LINES: readonly {
  readonly content: DrawnContent;
  readonly ink: string;
  readonly dashes?: string;
}[] = [
  { content: "tangents", ink: "var(--quiet)" },
  { content: "innerMould", ink: "var(--quiet)", dashes: "1.5 3" },
  { content: "outerMould", ink: "var(--quiet)", dashes: "9 3 1.5 3" },
  { content: "marks", ink: "var(--moss)" },
];

/** Tangent lines, mould lines and what is engraved, where they are wanted. */
function Extras({ document, build, preset, settings }: BlankDrawingProps) {
  const { shows = DEFAULT_SHOWS } = settings;
  const wanted = EXTRA_LINES.filter(({ content }) => (shows as readonly string[]).includes(content));
  const key = wanted.map((w) => w.content).join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key says which contents are wanted
  const lines = useMemo(
    () =>
      extraLines(
        document,
        build,
        preset,
        wanted.map((w) => w.content),
      ),
    [document, build, preset, key],
  );
  return wanted.map(({ content, ink, dashes }) => (
    <path
      key={content}
      data-extra={content}
      d={lines.get(content) ?? ""}
      fill="none"
      stroke={ink}
      strokeWidth={1}
      strokeDasharray={dashes}
      {...PEN}
    />
  ));
}

const LETTER_SIZE = 18;

/** What keeps its size on the page is placed anew for each closeness, in steps. */
const stepOf = (zoom: number): number => 2 ** (Math.round(Math.log2(zoom) * 3) / 3);

/** A place and those around it, ever farther off. */
function* placesAround(at: { x: number; y: number }, far: number) {
  yield { ...at, turn: 0 };
  for (let ring = 1; ring <= 8; ring++)
    for (let k = 0; k < 8; k++) {
      const angle = (k / 8) * 2 * Math.PI;
      const r = (far * ring) / 8;
      yield { x: at.x + Math.cos(angle) * r, y: at.y + Math.sin(angle) * r, turn: 0 };
    }
}

const NOTE_HEIGHT = 18;
const LETTER = 6.9;

interface LabelsProps extends BlankDrawingProps {
  readonly letters: boolean;
  readonly numbers: boolean;
  readonly full: boolean;
}

interface BendLabel {
  readonly id: string;
  readonly up: boolean;
  /** What it says where there is room for it, the longest first. */
  readonly texts: readonly string[];
}

/**
 * Number, direction, angle and radius of each bend on its line, else beside it with a leader; the letter of each plate on
 * its metal: none where it would hide a line, an opening or another.
 */
function Labels(props: LabelsProps) {
  const { build, drawn, zoom, place, units, letters, numbers, full } = props;
  const { side } = drawn.placed;
  const labels = useMemo((): readonly BendLabel[] => {
    if (!numbers) return [];
    return build.bends.map((b) => {
      const up = b.up === (side === "B");
      const short = `${b.number}${up ? "▲" : "▼"}`;
      const long = `${short} ${formatShort(toDegrees(b.angle), 2)}° r ${shortLength(b.radius, units)}`;
      return { id: b.id, up, texts: full ? [long, short] : [short] };
    });
  }, [build, side, units, numbers, full]);
  const step = stepOf(zoom);
  const things = useMemo(() => {
    const { outlines, openings, centreLines } = drawn.placed.blank;
    return inTheWay([...outlines.flat(), ...openings.flat(), ...centreLines.flatMap((l) => l.pieces)]);
  }, [drawn]);
  const boxes = useMemo(
    () => labelBoxes(labels, letters, drawn, things, step),
    [labels, letters, drawn, things, step],
  );
  return (
    <>
      {drawn.plates.map(({ letter }) => {
        const box = boxes.get(`letter ${letter}`);
        return box && <Letter key={letter} letter={letter} at={place(box)} />;
      })}
      {labels.map(({ id, up, texts }) => {
        const found = texts.map((t, i) => ({ text: t, box: boxes.get(`${id} ${i}`) })).find((f) => f.box);
        if (!found?.box) return null;
        return (
          <Note
            key={id}
            text={found.text}
            box={found.box}
            up={up}
            id={id}
            place={place}
            drawn={drawn}
            zoom={zoom}
          />
        );
      })}
    </>
  );
}

const Letter = ({ letter, at }: { letter: string; at: { x: number; y: number } }) => (
  <text
    data-letter={letter}
    x={at.x}
    y={at.y + 5}
    textAnchor="middle"
    fontSize={15}
    fontWeight={700}
    fill="var(--quiet)"
    pointerEvents="none"
  >
    {letter}
  </text>
);

function labelBoxes(
  labels: readonly BendLabel[],
  letters: boolean,
  { placed, plates }: SheetDrawn,
  things: InTheWay,
  zoom: number,
): ReadonlyMap<string, NoteBox> {
  const { blank } = placed;
  const lines = new Map(blank.centreLines.map((l) => [l.bend, l.pieces]));
  const done = new Set<string>();
  const inSight = (box: NoteBox) => withinSight(box, blank.bounds, zoom);
  const notes = labels.flatMap(({ id, texts }): NoteWish[] => {
    const pieces = lines.get(id) ?? [];
    if (pieces.length === 0) return [];
    const length = (c: Curve) => Math.hypot(c.b.x - c.a.x, c.b.y - c.a.y);
    const longest = pieces.reduce((m, c) => (length(c) > length(m) ? c : m));
    return texts.map((text, i) => {
      const width = (text.length * LETTER + 12) / zoom;
      const fitting = length(longest) > width * 1.15;
      const last = i === texts.length - 1;
      return {
        key: `${id} ${i}`,
        width,
        height: NOTE_HEIGHT / zoom,
        own: new Set<Curve>(pieces),
        places: placesAlong(longest.a, longest.b, fitting ? [0] : [], last ? NOTE_HEIGHT / zoom : 0),
        fits: (box) => {
          if (done.has(id) || !inSight(box)) return false;
          done.add(id);
          return true;
        },
      };
    });
  });
  const size = LETTER_SIZE / zoom;
  const onPlates = letters
    ? plates
        .filter((p) => p.size > size)
        .map(
          (p): NoteWish => ({
            key: `letter ${p.letter}`,
            width: size,
            height: size,
            places: placesAround(p.at, p.size / 2),
          }),
        )
    : [];
  return placeNotes([...notes, ...onPlates], things);
}

/** Beyond the blank a note may stand so far (pixels) before it meets the overall size, or the edge of the view. */
const MOST_BEYOND = { left: 36, right: 22, up: 36, down: 22 };

function withinSight(box: NoteBox, { minX, minY, maxX, maxY }: Bounds, zoom: number): boolean {
  return cornersOf(box).every(
    ({ x, y }) =>
      x >= minX - MOST_BEYOND.left / zoom &&
      x <= maxX + MOST_BEYOND.right / zoom &&
      y >= minY - MOST_BEYOND.down / zoom &&
      y <= maxY + MOST_BEYOND.up / zoom,
  );
}

interface NoteProps {
  readonly text: string;
  readonly box: NoteBox;
  readonly up: boolean;
  readonly id: string;
  readonly place: Place;
  readonly drawn: SheetDrawn;
  readonly zoom: number;
}

function Note({ text, box, up, id, place, drawn, zoom }: NoteProps) {
  const ink = up ? "var(--bend-up)" : "var(--bend-down)";
  const { x, y } = place(box);
  const w = text.length * LETTER + 12;
  const pieces = drawn.placed.blank.centreLines.find((l) => l.bend === id)?.pieces ?? [];
  const middle = pieces[0] && {
    x: (pieces[0].a.x + pieces[0].b.x) / 2,
    y: (pieces[0].a.y + pieces[0].b.y) / 2,
  };
  const away = middle && box.turn === 0 && distanceToLine(box, pieces[0]) * zoom > NOTE_HEIGHT;
  const to = middle && place(middle);
  return (
    <g
      data-note={text}
      data-note-box={cornersOf(box)
        .map((c) => `${c.x.toFixed(2)},${c.y.toFixed(2)}`)
        .join(" ")}
    >
      {away && to && <path d={`M${to.x} ${to.y}L${x} ${y}`} stroke={ink} strokeWidth={0.8} opacity={0.7} />}
      <g transform={`translate(${x} ${y}) rotate(${(-box.turn * 180) / Math.PI})`}>
        <rect x={-w / 2} y={-8.5} width={w} height={17} rx={8.5} fill="var(--panel)" stroke={ink} />
        <text textAnchor="middle" dy="3.8" fill={ink} className="num" fontSize={11}>
          {text}
        </text>
      </g>
    </g>
  );
}

function distanceToLine(p: { x: number; y: number }, { a, b }: Curve): number {
  const length = Math.hypot(b.x - a.x, b.y - a.y) || 1;
  return Math.abs((p.x - a.x) * (b.y - a.y) - (p.y - a.y) * (b.x - a.x)) / length;
}

/** Which way the grain lies, beside the blank. */
function Grain({ drawn, place }: BlankDrawingProps) {
  const { grain, blank } = drawn.placed;
  if (!grain) return null;
  const corner = place({ x: blank.bounds.minX, y: blank.bounds.maxY });
  const angle = (-Math.atan2(grain.y, grain.x) * 180) / Math.PI;
  return (
    <g data-grain transform={`translate(${corner.x + 24} ${corner.y - 30})`} pointerEvents="none">
      <path
        transform={`rotate(${angle})`}
        d="M-18 0H18M-18 0l6 -4M-18 0l6 4M18 0l-6 -4M18 0l-6 4"
        stroke="var(--quiet)"
        strokeWidth={1.3}
        fill="none"
      />
      <text x={26} y={4} fontSize={11} fill="var(--quiet)">
        grain
      </text>
    </g>
  );
}

const ROOM = 14;

/** Moves places along a line apart, so that none stands nearer than `room` to the next. */
function spread(places: readonly number[], room: number): number[] {
  const order = places.map((at, i) => ({ at, i })).sort((p, q) => p.at - q.at);
  let last = -Infinity;
  const out = [...places];
  for (const { at, i } of order) {
    last = Math.max(at, last + room);
    out[i] = last;
  }
  return out;
}

/** How far each bend line stands from the left and from the lower datum, beside the blank. */
function Ordinates({ document, build, drawn, place, units }: BlankDrawingProps) {
  const rows = useMemo(() => ordinatesOf(document, build, drawn), [document, build, drawn]);
  const { bounds } = drawn.placed.blank;
  const [left, foot] = [place({ x: bounds.minX, y: 0 }).x, place({ x: 0, y: bounds.minY }).y];
  const spreadY = spread(
    rows.up.map((r) => place(r.at).y),
    ROOM,
  );
  const spreadX = spread(
    rows.across.map((r) => place(r.at).x),
    ROOM,
  );
  return (
    <g className="num" fontSize={10.5} fill="var(--quiet)" stroke="none" pointerEvents="none">
      {rows.up.map(({ value, at, id }, i) => {
        const y = place(at).y;
        return (
          <g key={id} data-ordinate="up">
            <path
              d={`M${left - 4} ${y}H${left - 12}L${left - 18} ${spreadY[i]}h-6`}
              stroke="var(--quiet)"
              strokeWidth={0.8}
              fill="none"
            />
            <text x={left - 27} y={spreadY[i] + 3.5} textAnchor="end">
              {lengthText(value, units)}
            </text>
          </g>
        );
      })}
      {rows.across.map(({ value, at, id }, i) => {
        const x = place(at).x;
        return (
          <g key={id} data-ordinate="across">
            <path
              d={`M${x} ${foot + 4}V${foot + 10}L${spreadX[i]} ${foot + 16}`}
              stroke="var(--quiet)"
              strokeWidth={0.8}
              fill="none"
              transform="translate(0 34)"
            />
            <text transform={`translate(${spreadX[i] + 3.5} ${foot + 54}) rotate(-90)`} textAnchor="end">
              {lengthText(value, units)}
            </text>
          </g>
        );
      })}
    </g>
  );
}

function ordinatesOf(document: PartDocument, build: PartBuild, { placed }: SheetDrawn) {
  const lines = new Map(placed.blank.centreLines.map((l) => [l.bend, l.pieces]));
  const rows = bendList(document, build).flatMap((r) => {
    const [piece] = lines.get(r.id) ?? [];
    return piece ? [{ ...r, at: { x: (piece.a.x + piece.b.x) / 2, y: (piece.a.y + piece.b.y) / 2 } }] : [];
  });
  // Two lines in one run would be told twice.
  const once = <T extends { value: number }>(list: readonly T[]) =>
    list.filter((r, i) => list.findIndex((o) => Math.abs(o.value - r.value) < 1e-6) === i);
  return {
    across: once(
      rows.flatMap(({ id, across, at }) => (across.length === 1 ? [{ id, at, value: across[0] }] : [])),
    ),
    up: once(
      rows.flatMap(({ id, upwards, at }) => (upwards.length === 1 ? [{ id, at, value: upwards[0] }] : [])),
    ),
  };
}

/** What is otherwise in a file that came back: moved, changed, added, removed. */
function Differences({ comparison, place, transform }: BlankDrawingProps & { comparison: Comparison }) {
  const { moved, changed, added, removed } = comparison;
  const looks = [
    { list: removed, ink: "var(--stop)", dashes: "4 3" },
    { list: added, ink: "var(--moss)" },
    { list: changed, ink: "var(--amber)" },
    { list: moved, ink: "var(--amber)" },
  ];
  return (
    <g pointerEvents="none" data-differences>
      <g transform={transform} fill="none">
        {looks.map(({ list, ink, dashes }, i) => (
          <path
            key={i}
            d={list.map((d) => pathOf(d.curves)).join("")}
            stroke={ink}
            strokeWidth={2.6}
            strokeDasharray={dashes}
            {...PEN}
          />
        ))}
      </g>
      {[...moved, ...changed, ...added, ...removed].map((d, i) => {
        const { x, y } = place({ x: d.at[0], y: d.at[1] });
        const to = d.to && place({ x: d.to[0], y: d.to[1] });
        const glyph = moved.includes(d) ? "↦" : changed.includes(d) ? "◆" : added.includes(d) ? "+" : "−";
        return (
          <g key={i}>
            {to && <path d={`M${x} ${y}L${to.x} ${to.y}`} stroke="var(--amber)" strokeWidth={1.4} />}
            <circle
              cx={x}
              cy={y}
              r={13}
              fill="none"
              stroke="var(--ink)"
              strokeWidth={0.8}
              strokeDasharray="2 2"
            />
            <text x={x + 15} y={y - 8} fontSize={13} fontWeight={700} fill="var(--ink)">
              {glyph}
            </text>
          </g>
        );
      })}
    </g>
  );
}

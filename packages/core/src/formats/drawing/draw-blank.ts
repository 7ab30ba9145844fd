import { innerSetback, outerSetback } from "../../bend/allowance.ts";
import { orientationOf } from "../../part/blank-settings.ts";
import type { PartBuild } from "../../part/build.ts";
import type { PartDocument } from "../../part/document.ts";
import { type Curve, curveLength, curvesBounds, type Line, line, pointAt } from "../../plane/curve.ts";
import {
  backOf,
  type Isometry,
  moveCurve,
  moveDirection,
  moveLoop,
  movePoint,
  translation,
} from "../../plane/isometry.ts";
import { asCircle, type Loop, loopLength, loopsBounds } from "../../plane/loop.ts";
import { hypotenuse, type Point } from "../../plane/point.ts";
import { insideLoop } from "../../plane/stitch.ts";
import type { Blank } from "../../sheet/blank/blank.ts";
import { layBlank, moveBlank, type PlacedBlank } from "../../sheet/blank/orientation.ts";
import { type Feature, roundOf } from "../../sheet/feature.ts";
import type { Bend } from "../../sheet/pieces/flat-pieces.ts";
import { bendsOf, featuresOf, type Sheet } from "../../sheet/sheet.ts";
import { stops } from "../../steps/finding.ts";
import {
  type DrawnContent,
  type ExportPreset,
  layersOf,
  type PresetLayer,
  writtenUnits,
} from "../../stock/export-preset.ts";
import { INCH, sayLength } from "../../units/display.ts";
import { formatShort, toDegrees } from "../../units/quantity.ts";
import { curveKey } from "./curve-key.ts";
import type { DrawnBlank, DrawnEntity } from "./drawing.ts";
import { withJoints } from "./joints.ts";
import { inTheWay, type NoteBox, type NoteWish, placeNotes, placesAlong } from "./note-places.ts";
import { withoutShort } from "./shortest.ts";
import { strokeText, textWidth } from "./strokes.ts";

/** What is drawn: a part as it is built, and how it is to leave. */
export interface BlankToDraw {
  readonly document: PartDocument;
  readonly build: PartBuild & { readonly sheet: Sheet; readonly blank: Blank };
  readonly preset: ExportPreset;
  /** Of a part of several pieces only this one, counted from 0. */
  readonly piece?: number;
}

/** Whether a build can be drawn. */
export const isDrawable = (build: PartBuild): build is BlankToDraw["build"] =>
  build.sheet !== undefined && build.blank !== undefined && build.blank.outlines.length > 0;

/** Pieces below this are no pieces, mm: rounding leaves them. */
const NOTHING = 2e-6;

/**
 * Draws a blank for a file: turned and moved as the preset and the part say, each thing on its layer, in the file's
 * units. Arcs stay arcs, round openings circles.
 */
export function drawBlank({ document, build, preset, piece }: BlankToDraw): DrawnBlank {
  const { sheet, stock } = build;
  const wished = orientationOf(document, stock);
  const whole = piece === undefined ? build.blank : pieceOfBlank(build.blank, piece);
  const lies = layBlank(sheet, whole, preset.turn === "page" ? wished : { ...wished, turn: preset.turn });
  const motion = atOrigin(lies.motion, whole, preset.origin);
  // Of openings there may be very many: each is moved when it is drawn.
  const placed = { ...lies, motion, blank: moveBlank(motion, { ...whole, openings: [] }) };
  const pen = new Pen(
    preset,
    placed,
    whole.openings,
    featuresOf(sheet),
    writtenUnits(preset, document.units),
  );
  if (placed.problem) pen.notes.push(placed.problem);
  pen.cuts();
  pen.bends(new Map(bendsOf(sheet).map((b) => [b.id, b])), sheet.t);
  pen.texts(document.name, new Map(build.bends.map((b) => [b.id, b.number])));
  return { ...pen.drawn(), stops: saidStops(build) };
}

/** How files begin to say that findings stop their part. */
export const STOP_WORDS = "Findings stop this part:";

/** So many findings that stop a part are told one by one in its file. */
const MOST_STOPS = 5;

/** Why a part cannot be made as it stands, in the words that its files carry. */
export function saidStops({ findings }: PartBuild): string[] {
  const found = findings.filter(stops);
  const said = found.slice(0, MOST_STOPS).map((f) => `${STOP_WORDS} ${f.message}`);
  const more = found.length - said.length;
  return more > 0 ? [...said, `${STOP_WORDS} ${more} more like these.`] : said;
}

/** A motion by which the corner, the middle, or the place it was modelled about lies at the origin. */
function atOrigin(motion: Isometry, blank: Blank, origin: ExportPreset["origin"]): Isometry {
  if (origin === "corner") return motion;
  if (origin === "modelled") return { ...motion, ox: 0, oy: 0 };
  const { maxX, maxY } = loopsBounds(blank.outlines.map((l) => moveLoop(motion, l)));
  return { ...motion, ox: motion.ox - maxX / 2, oy: motion.oy - maxY / 2 };
}

/** One of the pieces that a blank falls into, with what is in it. */
export function pieceOfBlank(blank: Blank, piece: number): Blank {
  const outline = blank.outlines[piece];
  const inside = (p: Point) => insideLoop(outline, p);
  const ofIt = (pieces: readonly Line[]) => pieces.filter((l) => inside(pointAt(l, 0.5)));
  const outlines = [outline];
  const bounds = curvesBounds(outline);
  return {
    ...blank,
    outlines,
    openings: blank.openings.filter((o) => inside(o[0].a) || inside(pointAt(o[0], 0.5))),
    slits: blank.slits.filter((s) => inside(pointAt(s, 0.5))),
    marks: blank.marks.filter(({ curves }) => inside(pointAt(curves[0], 0.5))),
    centreLines: blank.centreLines.map((l) => ({ ...l, pieces: ofIt(l.pieces) })),
    tangentLines: blank.tangentLines.map((l) => ({ ...l, pieces: ofIt(l.pieces) })),
    overlaps: blank.overlaps.filter((r) => inside(pointAt(r.outer[0], 0.5))),
    bounds,
    width: bounds.maxX - bounds.minX,
    height: bounds.maxY - bounds.minY,
  };
}

/** How a bend is said in a file, where no arrows may be: `3 UP 90° R1.5`. */
export function bendNote(
  number: number,
  { up, angle, radius }: { readonly up: boolean; readonly angle: number; readonly radius: number },
  form: "number" | "full",
  units: "mm" | "in",
): string {
  if (form === "number") return String(number);
  const r = units === "mm" ? formatShort(radius, 3) : formatShort(radius / INCH, 4);
  return `${number} ${up ? "UP" : "DOWN"} ${formatShort(toDegrees(angle), 2)}° R${r}`;
}

/** Gathers what is drawn of one blank, in mm; the unit comes last. */
class Pen {
  readonly notes: string[] = [];
  private readonly entities: DrawnEntity[] = [];
  private readonly seen = new Set<string>();
  private readonly layers: ReadonlyMap<DrawnContent, PresetLayer>;
  private readonly blank: Blank;
  private readonly cutOpenings: Loop[] = [];
  private readonly marked: Loop[] = [];
  private readonly up: { bend: Bend; line: Line }[] = [];
  private readonly down: { bend: Bend; line: Line }[] = [];
  /** How far round each loop is that has no room for a micro-joint. */
  private readonly unjointed: number[] = [];
  private joints = 0;
  private joined = 0;
  private slack = 0;

  constructor(
    private readonly preset: ExportPreset,
    private readonly placed: PlacedBlank,
    /** As modelled: they are moved as they are asked for. */
    private readonly openings: readonly Loop[],
    private readonly features: ReadonlyMap<string, Feature>,
    private readonly units: "mm" | "in",
  ) {
    this.layers = layersOf(preset);
    this.blank = placed.blank;
  }

  private has(content: DrawnContent): boolean {
    return this.layers.has(content);
  }

  /** Adds a line or an arc, once, and not where it has no length. */
  private curve(content: DrawnContent, curve: Curve): void {
    if (curveLength(curve) < NOTHING) return;
    const key = `${this.layers.get(content)?.name} ${curveKey(curve, 1e6)}`;
    if (this.seen.has(key)) return;
    this.seen.add(key);
    this.entities.push({ kind: "curve", content, curve });
  }

  private chain(content: DrawnContent, curves: readonly Curve[], closed: boolean): void {
    if (this.preset.curves === "separate" || curves.length === 1)
      for (const c of curves) this.curve(content, c);
    else this.entities.push({ kind: "chain", content, curves, closed });
  }

  /** Everything that is cut: outlines, openings, cuts of no width; and marks for openings too small to cut. */
  cuts(): void {
    const { blank, preset } = this;
    for (const loop of blank.outlines) this.loop("outline", loop, preset.jointsOutline);
    if (this.has("slits")) for (const slit of blank.slits) this.curve("slits", slit);
    if (this.has("marks"))
      for (const { curves } of blank.marks) {
        const circle = asCircle(curves);
        if (circle) this.entities.push({ kind: "circle", content: "marks", ...circle });
        else for (const c of curves) this.curve("marks", c);
      }
    for (const loop of this.openings) {
      const small = preset.centresBelow > 0 ? this.tooSmall(loop) : undefined;
      if (small) {
        this.marked.push(this.moved(loop));
        this.centreMark(small.at, small.size);
      } else if (this.has("openings")) {
        this.cutOpenings.push(loop);
        this.opening(loop, preset.jointsOpening);
      }
    }
    const whole = this.unjointed.length;
    if (whole > 0)
      this.notes.push(
        `${whole === 1 ? "A loop" : `${whole} loops, the shortest`} ${sayLength(
          this.unjointed.reduce((m, v) => Math.min(m, v)),
          this.units,
          1,
        )} round${whole === 1 ? " has" : ", have"} no room for a micro-joint; ${whole === 1 ? "it is" : "they are"} cut whole.`,
      );
    const small = this.marked.length;
    if (small > 0)
      this.notes.push(
        `${small} ${small === 1 ? "opening" : "openings"} below ${sayLength(preset.centresBelow, this.units)} ${small === 1 ? "is" : "are"} ${this.has("centres") ? "marked, not cut" : "left out"}.`,
      );
  }

  /** The middle and the size of an opening that is too small to cut. */
  private tooSmall(loop: Loop): { readonly at: Point; readonly size: number } | undefined {
    const { minX, minY, maxX, maxY } = curvesBounds(this.moved(loop));
    const [width, height] = [maxX - minX, maxY - minY];
    if (Math.min(width, height) >= this.preset.centresBelow) return undefined;
    return { at: { x: (minX + maxX) / 2, y: (minY + maxY) / 2 }, size: Math.max(width, height) };
  }

  private moved(loop: Loop): Loop {
    return moveLoop(this.placed.motion, loop);
  }

  /** Most openings are round and whole: nothing of them can be too short, and their centre is all that moves. */
  private opening(loop: Loop, joints: number): void {
    const round = joints === 0 ? roundOf(loop, this.features) : undefined;
    if (!round) this.loop("openings", this.moved(loop), joints);
    else
      this.entities.push({
        kind: "circle",
        content: "openings",
        c: movePoint(this.placed.motion, round.c),
        r: round.r,
      });
  }

  private loop(content: DrawnContent, whole: Loop, joints: number): void {
    const { shortest, jointWidth } = this.preset;
    const { loop, joined, area } = withoutShort(whole, Math.max(NOTHING, shortest));
    if (shortest > 0) this.joined += joined;
    this.slack += Math.abs(area);
    const circle = asCircle(loop);
    const jointed = joints > 0 ? withJoints(loop, jointWidth, joints) : undefined;
    if (joints > 0 && !jointed) this.unjointed.push(loopLength(loop));
    if (jointed) {
      this.joints += jointed.gaps.length;
      for (const chain of jointed.chains) this.chain(content, chain, false);
    } else if (circle) this.entities.push({ kind: "circle", content, ...circle });
    else this.chain(content, loop, true);
  }

  private centreMark({ x, y }: Point, size: number): void {
    if (!this.has("centres")) return;
    const half = Math.max(0.5, size / 2);
    this.curve("centres", line({ x: x - half, y }, { x: x + half, y }));
    this.curve("centres", line({ x, y: y - half }, { x, y: y + half }));
  }

  /** Bend lines by their direction as seen from the side that is up, and the lines beside them. */
  bends(bends: ReadonlyMap<string, Bend>, t: number): void {
    const { blank, placed } = this;
    blank.centreLines.forEach(({ bend: id, pieces }, i) => {
      const bend = bends.get(id);
      if (!bend) return;
      const up = bend.up === (placed.side === "B");
      const content = up ? "bendsUp" : "bendsDown";
      for (const piece of pieces) {
        (up ? this.up : this.down).push({ bend, line: piece });
        if (this.has(content)) this.bendLine(content, piece);
        if (this.preset.edgeTicks && this.has("marks"))
          for (const tick of this.ticks(piece)) this.curve("marks", tick);
        this.mouldLines(bend, piece, t);
      }
      if (this.has("tangents")) for (const p of blank.tangentLines[i].pieces) this.curve("tangents", p);
    });
  }

  private bendLine(content: DrawnContent, piece: Line): void {
    if (this.preset.bendLines === "whole") this.curve(content, piece);
    else for (const tick of this.ticks(piece)) this.curve(content, tick);
  }

  /** The two ends of a line, each so long as ticks are; a line that is too short for two is one. */
  private ticks(piece: Line): Line[] {
    const f = this.preset.tickLength / curveLength(piece);
    if (f >= 0.5) return [piece];
    return [line(piece.a, pointAt(piece, f)), line(pointAt(piece, 1 - f), piece.b)];
  }

  /** Where the faces beside a bend would meet if they were led on, measured on the flat from either side. */
  private mouldLines(bend: Bend, piece: Line, t: number): void {
    const shape = { t, r: bend.radius, angle: bend.angle };
    const out = moveDirection(this.placed.motion, bend.out);
    for (const [content, setback] of [
      ["innerMould", innerSetback(shape)],
      ["outerMould", outerSetback(shape)],
    ] as const) {
      if (!this.has(content) || setback === undefined) continue;
      const off = setback - bend.allowance / 2;
      for (const side of [off, -off])
        this.curve(content, moveCurve(translation({ x: out.x * side, y: out.y * side }), piece));
    }
  }

  /** Notes, the part's name, the side that is up, the way of the grain: where they cover nothing. */
  texts(name: string, numbers: ReadonlyMap<string, number>): void {
    const { preset } = this;
    const wishes: (NoteWish & { text: string; content: DrawnContent; size: number })[] = [];
    const free = (key: string, text: string, content: DrawnContent, sizes: readonly number[]) => {
      for (const size of sizes) {
        const box = { width: textWidth(text, size) + size, height: size * 1.8 };
        wishes.push({
          key,
          text,
          content,
          size,
          ...box,
          places: this.places(),
          fits: (b) => this.onMetal(b),
        });
      }
    };
    const sizes = [1, 0.75, 0.5, 0.35].map((f) => preset.textHeight * f);
    if (this.has("marks")) {
      if (preset.partName) free("name", name, "marks", sizes);
      if (preset.sideMark) free("side", `SIDE ${this.placed.side} UP`, "marks", sizes);
    }
    if (this.has("notes")) for (const wish of this.bendNotes(numbers)) wishes.push(wish);
    this.grainArrow();
    if (wishes.length === 0) return;
    const curves = [...this.blank.outlines, ...this.openings.map((l) => this.moved(l))].flat();
    const lines = [...this.up, ...this.down].map((b) => b.line);
    const found = placeNotes(onceEach(wishes), inTheWay([...curves, ...this.blank.slits, ...lines]));
    for (const { key, text, content, size } of wishes) {
      const box = found.get(`${key} ${size}`);
      if (box) this.text(content, text, size, box);
    }
    const placed = new Set(wishes.filter((w) => found.has(`${w.key} ${w.size}`)).map((w) => w.key));
    const absent = new Map(wishes.filter((w) => !placed.has(w.key)).map((w) => [w.key, w.text]));
    const [first] = absent.values();
    if (absent.size === 1) this.notes.push(`There is no room for “${shortened(first)}”; it is left out.`);
    if (absent.size > 1)
      this.notes.push(
        `There is no room for ${absent.size} notes, of which the first is “${shortened(first)}”; they are left out.`,
      );
  }

  private bendNotes(numbers: ReadonlyMap<string, number>) {
    const { preset, placed } = this;
    const height = preset.textHeight;
    const longest = new Map<Bend, Line>();
    for (const { bend, line: piece } of [...this.up, ...this.down]) {
      const before = longest.get(bend);
      if (!before || curveLength(piece) > curveLength(before)) longest.set(bend, piece);
    }
    return [...longest].map(([bend, { a, b }]) => {
      const up = bend.up === (placed.side === "B");
      const text = bendNote(numbers.get(bend.id) ?? bend.number, { ...bend, up }, preset.notes, this.units);
      const beside = [1.1, -1.1, 2.6, -2.6].map((f) => f * height);
      return {
        key: `bend ${bend.id}`,
        text,
        content: "notes" as const,
        size: height,
        width: textWidth(text, height) + height * 0.6,
        height: height * 1.6,
        places: placesAlong(a, b, beside, height * 2),
      };
    });
  }

  /** Places all over the blank, from its middle outwards. */
  private *places(): Generator<{ x: number; y: number; turn: number }> {
    const { minX, minY, maxX, maxY } = this.blank.bounds;
    const steps = 24;
    const all: { x: number; y: number; far: number }[] = [];
    for (let i = 1; i < steps; i++)
      for (let j = 1; j < steps; j++) {
        const [u, v] = [i / steps, j / steps];
        all.push({
          x: minX + (maxX - minX) * u,
          y: minY + (maxY - minY) * v,
          far: hypotenuse(u - 0.5, v - 0.5),
        });
      }
    all.sort((p, q) => p.far - q.far);
    for (const turn of [0, Math.PI / 2]) for (const { x, y } of all) yield { x, y, turn };
  }

  /** Whether a place at which no curve is covered lies on metal. */
  private onMetal(box: NoteBox): boolean {
    return (
      this.blank.outlines.some((l) => insideLoop(l, box)) &&
      !this.openings.some((l) => insideLoop(l, movePoint(backOf(this.placed.motion), box)))
    );
  }

  private text(content: DrawnContent, text: string, height: number, { x, y, turn }: NoteBox): void {
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    const [u, v] = [-textWidth(text, height) / 2, -height / 2];
    const at = { x: x + u * c - v * s, y: y + u * s + v * c };
    if (this.preset.text === "text") this.entities.push({ kind: "text", content, at, height, turn, text });
    else for (const run of strokeText(text, { at, height, turn })) this.chain(content, run, false);
  }

  private grainArrow(): void {
    const { grain, blank } = this.placed;
    if (!this.has("grain") || !grain) return;
    const size = Math.min(60, 0.3 * Math.min(blank.width, blank.height));
    const turn = Math.atan2(grain.y, grain.x);
    const wish: NoteWish = {
      key: "grain",
      width: size,
      height: size / 6,
      places: [...this.places()].filter((p) => p.turn === 0).map((p) => ({ ...p, turn })),
      fits: (b) => this.onMetal(b),
    };
    const curves = [...blank.outlines, ...this.openings.map((l) => this.moved(l))].flat();
    const taken = this.entities.flatMap((e) =>
      e.kind === "curve" ? [e.curve] : e.kind === "chain" ? e.curves : [],
    );
    const box = placeNotes([wish], inTheWay([...curves, ...taken])).get("grain");
    if (!box) return void this.notes.push("There is no room for the grain arrow; it is left out.");
    const at = (u: number, v: number) => ({
      x: box.x + u * grain.x - v * grain.y,
      y: box.y + u * grain.y + v * grain.x,
    });
    const [half, barb] = [size / 2, size / 14];
    this.curve("grain", line(at(-half, 0), at(half, 0)));
    for (const end of [-1, 1])
      for (const side of [-1, 1])
        this.curve("grain", line(at(end * half, 0), at(end * (half - 2 * barb), side * barb)));
  }

  drawn(): Omit<DrawnBlank, "stops"> {
    const { blank, preset } = this;
    const unit = this.units === "mm" ? 1 : INCH;
    const f = 1 / unit;
    const size = (c: Curve) => scaledCurve(c, f);
    const loops = (list: readonly Loop[]) => (f === 1 ? list : list.map((l) => l.map(size)));
    const box = loopsBounds(blank.outlines);
    if (this.joined > 0)
      this.notes.push(
        `${this.joined} ${this.joined === 1 ? "piece" : "pieces"} shorter than ${sayLength(preset.shortest, this.units, 4)} joined to the next.`,
      );
    const slits = this.has("slits") ? blank.slits : [];
    let found: readonly Loop[] | undefined;
    const openings = () => {
      found ??= loops(this.cutOpenings.map((l) => this.moved(l)));
      return found;
    };
    return {
      unit,
      notes: this.notes,
      drawing: {
        units: this.units,
        layers: this.layers,
        entities: f === 1 ? this.entities : this.entities.map((e) => scaledEntity(e, f)),
        bounds: { minX: box.minX * f, minY: box.minY * f, maxX: box.maxX * f, maxY: box.maxY * f },
      },
      facts: {
        outlines: loops(blank.outlines),
        // Asked for by proofs and comparisons, not for writing.
        get openings() {
          return openings();
        },
        marked: loops(this.marked),
        slits: slits.map(size),
        bendsUp: this.has("bendsUp") ? this.up.map((b) => size(b.line)) : [],
        bendsDown: this.has("bendsDown") ? this.down.map((b) => size(b.line)) : [],
        joints: this.joints,
        jointWidth: preset.jointWidth * f,
        joinedPieces: this.joined,
        slack: this.slack * f * f,
      },
    };
  }
}

/** A text as a note quotes it. */
const shortened = (text: string): string => (text.length > 60 ? `${text.slice(0, 59)}…` : text);

/** Wishes of one key for several sizes: each under a name of its own, and none but the first that finds a place counts. */
function onceEach(wishes: readonly (NoteWish & { readonly size: number })[]): NoteWish[] {
  const done = new Set<string>();
  return wishes.map((w) => ({
    ...w,
    key: `${w.key} ${w.size}`,
    fits: (box) => {
      if (done.has(w.key) || w.fits?.(box) === false) return false;
      done.add(w.key);
      return true;
    },
  }));
}

const scaledPoint = ({ x, y }: Point, f: number): Point => ({ x: x * f, y: y * f });

function scaledCurve(c: Curve, f: number): Curve {
  if (f === 1) return c;
  const ends = { a: scaledPoint(c.a, f), b: scaledPoint(c.b, f) };
  return c.kind === "line" ? { ...c, ...ends } : { ...c, ...ends, c: scaledPoint(c.c, f), r: c.r * f };
}

function scaledEntity(e: DrawnEntity, f: number): DrawnEntity {
  switch (e.kind) {
    case "curve":
      return { ...e, curve: scaledCurve(e.curve, f) };
    case "circle":
      return { ...e, c: scaledPoint(e.c, f), r: e.r * f };
    case "chain":
      return { ...e, curves: e.curves.map((c) => scaledCurve(c, f)) };
    case "text":
      return { ...e, at: scaledPoint(e.at, f), height: e.height * f };
  }
}

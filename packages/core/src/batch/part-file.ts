import { type CheckedBuild, isStopped } from "../check/check.ts";
import { type BlankToDraw, drawBlank, isDrawable, saidStops } from "../formats/drawing/draw-blank.ts";
import type { DrawnBlank } from "../formats/drawing/drawing.ts";
import type { MadeFile } from "../formats/file-format.ts";
import { MAKERS } from "../formats/registry.ts";
import type { FoldedView } from "../formats/svg/svg.ts";
import type { PartDocument } from "../part/document.ts";
import { fail, ok, type Result } from "../result.ts";
import { stops } from "../steps/finding.ts";
import type { ExportPreset } from "../stock/export-preset.ts";

/** Which file is wanted of a part. */
export interface FileOrder {
  /** The key of a format. */
  readonly format: string;
  readonly preset: ExportPreset;
  readonly fold?: number;
  readonly view?: FoldedView;
  /** Of a part of several pieces only this one, counted from 0. */
  readonly piece?: number;
  /** Whether it is wanted although findings stop the part. */
  readonly anyway: boolean;
}

/** Why a part does not leave, and whether it would if it were told to leave anyway. */
export interface Refusal {
  readonly why: string;
  readonly stopped: boolean;
}

type Ready = BlankToDraw["build"] & CheckedBuild;

/** Whether a part may leave: it has a blank, and no finding stops it unless it is told to leave anyway. */
export function mayLeave(build: CheckedBuild, forMaking: boolean, anyway: boolean): Result<Ready, Refusal> {
  if (!isDrawable(build)) return fail({ why: "there is no blank to cut", stopped: false });
  if (!forMaking || anyway || !isStopped(build)) return ok(build as Ready);
  const found = build.findings.filter(stops);
  const more = found.length > 1 ? ` (and ${found.length - 1} more)` : "";
  return fail({ why: `a finding stops it: ${found[0].message}${more}`, stopped: true });
}

/**
 * Makes a file of a part: the one way by which parts leave, whoever asks. Nothing is made of a part without a blank, of one
 * that findings stop (unless told to; pictures, JSON and CSV say what stops it), or where the file read back is not the blank.
 */
export function makeFile(
  document: PartDocument,
  build: CheckedBuild,
  { format, anyway, ...how }: FileOrder,
): Result<MadeFile, Refusal> {
  const maker = MAKERS.find((f) => f.key === format);
  if (!maker) return fail({ why: `there is no format ${format}`, stopped: false });
  const ready = mayLeave(build, maker.forMaking, anyway);
  if (!ready.ok) return ready;
  const said = saidStops(build);
  const { content, proof } = maker.make({ document, build: ready.value, stops: said, ...how });
  const wrong = proof?.lines.filter((l) => !l.holds) ?? [];
  if (wrong.length > 0) {
    const why = `read back, the file is not the blank: ${wrong.map((l) => l.text).join("; ")}`;
    return fail({ why, stopped: false });
  }
  // A file that is not read back says what stops the part beside it all the same.
  const told = said.map((text) => ({ holds: true, text }));
  return ok({ content, proof: proof ?? (told.length > 0 ? { holds: true, lines: told } : undefined) });
}

/**
 * Draws a part for a file that several parts share, by the same rule. Parts may be shown in different units, and one file has
 * one: it is in mm where its preset would have it as the part.
 */
export function drawToLeave(
  document: PartDocument,
  build: CheckedBuild,
  { preset, anyway }: Pick<FileOrder, "preset" | "anyway">,
): Result<DrawnBlank, Refusal> {
  const ready = mayLeave(build, true, anyway);
  const shared = { ...preset, units: preset.units === "part" ? "mm" : preset.units } as const;
  return ready.ok ? ok(drawBlank({ document, build: ready.value, preset: shared })) : ready;
}

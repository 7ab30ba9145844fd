import {
  applyCommand,
  type DrawnShapes,
  drawBlank,
  type ExportPreset,
  examinePart,
  exportDxf,
  isDrawable,
  newPart,
  type PartBuild,
  type PartCommand,
  type PartDocument,
  PLAIN_PRESET,
  readDxfShapes,
  type StepDocument,
} from "../src/index.ts";
import { byPoints } from "./by-points.ts";

/** A part of the steps, of the stock that a new part has. */
export const part = (...steps: StepDocument[]): PartDocument => byPoints({ ...newPart("Part"), steps });

/** The plate of `part`, as its first step. */
export const plate = (width: string, depth: string, holes: readonly object[] = []): StepDocument => ({
  id: "s1",
  kind: "plate",
  width,
  depth,
  holes,
});

export const hole = (d: string, x = "0", y = "0", key = "a") => ({ key, x, y, d });

/** What a build says of its part, each finding with how grave it is. */
export const told = (build: PartBuild) => build.findings.map((f) => `${f.level}: ${f.message}`);

/** What work gives, and the processor's time it took (ms): the clock on the wall tells how busy the machine is. */
export function spentOn<T>(work: () => T): { result: T; took: number } {
  const before = process.cpuUsage();
  const result = work();
  const { user, system } = process.cpuUsage(before);
  return { result, took: (user + system) / 1000 };
}

/** Builds, and says how long it took (ms). */
export function timed(document: PartDocument): { build: PartBuild; took: number } {
  const { result: build, took } = spentOn(() => examinePart(document));
  return { build, took };
}

/** A document after a command that goes. */
export function after(document: PartDocument, command: PartCommand): PartDocument {
  const done = applyCommand(document, command);
  if (!done.ok) throw new Error(done.error);
  return done.value.document;
}

/** A document with values of a step changed; `undefined` goes back to the default. */
export const withChange = (
  document: PartDocument,
  step: string,
  values: Readonly<Record<string, unknown>>,
): PartDocument =>
  after(document, {
    do: "set",
    step,
    values: Object.fromEntries(Object.entries(values).map(([key, v]) => [key, v ?? null])),
  });

/** What is asked of a preset besides what is plain; layers by the contents that are wanted. */
export type PresetChange = Partial<Omit<ExportPreset, "layers">> & {
  readonly contents?: readonly string[];
};

export const presetWith = ({ contents, ...more }: PresetChange = {}): ExportPreset => ({
  ...PLAIN_PRESET,
  ...more,
  layers: PLAIN_PRESET.layers.map((l) => (contents ? { ...l, leftOut: !contents.includes(l.content) } : l)),
});

function ready(build: PartBuild) {
  if (!isDrawable(build)) throw new Error("The part has no blank.");
  return build;
}

/** A part's blank drawn for a file. */
export const drawnOf = (document: PartDocument, change: PresetChange = {}, build = examinePart(document)) =>
  drawBlank({ document, build: ready(build), preset: presetWith(change) });

/** The same as DXF, with its proof. */
export const dxfOf = (document: PartDocument, change: PresetChange = {}, build = examinePart(document)) =>
  exportDxf({ document, build: ready(build), preset: presetWith(change) });

/** What a DXF draws that can be read. */
export function shapesIn(text: string): DrawnShapes {
  const read = readDxfShapes(text);
  if (!read.ok) throw new Error(read.error);
  return read.value;
}

/** A channel 100 wide, 80 long, with two walls 60 high, `s2a` and `s3a`, of which the second may lean. */
export const channelSteps = (second = "90"): StepDocument[] => [
  plate("100", "80"),
  { id: "s2", kind: "flange", edges: [{ key: "a", at: "s1.west" }], length: "60" },
  { id: "s3", kind: "flange", edges: [{ key: "a", at: "s1.east" }], length: "60", angle: second },
];

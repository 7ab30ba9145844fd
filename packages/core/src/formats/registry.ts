import { bendList } from "../part/bend-list.ts";
import { evenState } from "../sheet/folding/fold.ts";
import type { ExportPreset } from "../stock/export-preset.ts";
import { bendListCsv } from "./csv/bend-list-csv.ts";
import { type BlankToDraw, drawBlank } from "./drawing/draw-blank.ts";
import { exportDxf } from "./dxf/export-dxf.ts";
import type { Proof } from "./dxf/prove-dxf.ts";
import { writeGlb, writeGltf } from "./gltf/gltf.ts";
import { blankGeometry } from "./json/blank-json.ts";
import { foldedSurface } from "./stl/folded-surface.ts";
import { writeStl } from "./stl/stl.ts";
import { bannered } from "./svg/banner.ts";
import { drawingSvg } from "./svg/drawing-svg.ts";
import { type FoldedView, foldedPicture } from "./svg/svg.ts";
import { write3mf } from "./threemf/threemf.ts";

/** What a file is made from. */
interface FileJob extends BlankToDraw {
  /** How far the part is folded, 0 to 1, where it is shown folded. */
  readonly fold?: number;
  readonly view?: FoldedView;
  /** Why the part cannot be made as it stands: every file says so. */
  readonly stops: readonly string[];
}

/** A file as it was made, with its proof: what reading it back has shown, and why the part cannot be made where it cannot. */
export interface MadeFile {
  readonly content: string | Uint8Array;
  readonly proof?: Proof;
}

/** A kind of file that a part can leave as. */
export interface FileFormat {
  readonly key: string;
  readonly label: string;
  /** What of the part it shows. */
  readonly of: "blank" | "folded";
  readonly ending: string;
  readonly type: string;
  /** What is made is an SVG that whoever asks for it turns into dots. */
  readonly asDots?: boolean;
  /** Whether a part can be made from it. Such a file is refused for a stopped part, unless it is wanted anyway. */
  readonly forMaking: boolean;
}

/** Meshes in files are no farther than this from the true surfaces, mm. */
const CHORD = 0.02;

const surface = ({ build, document, fold = 1 }: FileJob) =>
  foldedSurface(build.sheet, evenState(build.sheet, fold), document.anchor, CHORD);

/** Pictures carry their text as strokes: no font is asked for where they are looked at. */
const pictured = (job: FileJob, more: Partial<ExportPreset> = {}) =>
  drawBlank({ ...job, preset: { ...job.preset, text: "strokes", ...more } }).drawing;

const folded = ({ build, document, fold, view, stops: said }: FileJob, pixels: number) =>
  bannered(foldedPicture(build.sheet, { anchor: document.anchor, fold, view, pixels, asFile: true }), said);

/** A kind of file with what makes it. Only `makeFile` of the batch room calls it, which knows whether a part may leave. */
export interface Maker extends FileFormat {
  readonly make: (job: FileJob) => MadeFile;
}

/** Every kind of file there is. A new one is a folder here and an entry in this list. */
export const MAKERS: readonly Maker[] = [
  {
    key: "dxf",
    forMaking: true,
    label: "DXF",
    of: "blank",
    ending: "dxf",
    type: "image/vnd.dxf",
    make: (job) => {
      const { text, proof } = exportDxf(job);
      return { content: text, proof };
    },
  },
  {
    key: "svg",
    forMaking: true,
    label: "SVG, true size",
    of: "blank",
    ending: "svg",
    type: "image/svg+xml",
    make: (job) => ({ content: drawingSvg(pictured(job), { said: job.stops }) }),
  },
  {
    key: "png",
    forMaking: false,
    label: "PNG",
    of: "blank",
    ending: "png",
    type: "image/png",
    asDots: true,
    make: (job) => {
      const drawing = pictured(job);
      const { minX, maxX, minY, maxY } = drawing.bounds;
      return {
        content: bannered(
          drawingSvg(drawing, { paper: "#FFFDF7", pen: Math.max(maxX - minX, maxY - minY) / 900 }),
          job.stops,
        ),
      };
    },
  },
  {
    key: "json",
    forMaking: false,
    label: "JSON of its geometry",
    of: "blank",
    ending: "json",
    type: "application/json",
    make: ({ document, build, stops: said }) => ({
      content: `${JSON.stringify({ ...blankGeometry(document, build), stopped: said }, null, 1)}\n`,
    }),
  },
  {
    key: "csv",
    forMaking: false,
    label: "Bend list, CSV",
    of: "blank",
    ending: "csv",
    type: "text/csv",
    make: ({ document, build, stops: said }) => ({
      content: bendListCsv(bendList(document, build), (document.units ?? "mm") === "mm" ? "mm" : "in", said),
    }),
  },
  {
    key: "stl",
    forMaking: true,
    label: "STL",
    of: "folded",
    ending: "stl",
    type: "model/stl",
    make: (job) => ({ content: writeStl(surface(job), job.stops) }),
  },
  {
    key: "3mf",
    forMaking: true,
    label: "3MF",
    of: "folded",
    ending: "3mf",
    type: "model/3mf",
    make: (job) => ({ content: write3mf(job.document.name, surface(job), job.stops) }),
  },
  {
    key: "glb",
    forMaking: true,
    label: "GLB",
    of: "folded",
    ending: "glb",
    type: "model/gltf-binary",
    make: (job) => ({ content: writeGlb(job.document.name, surface(job), job.stops) }),
  },
  {
    key: "gltf",
    forMaking: true,
    label: "glTF",
    of: "folded",
    ending: "gltf",
    type: "model/gltf+json",
    make: (job) => ({ content: writeGltf(job.document.name, surface(job), job.stops) }),
  },
  {
    key: "folded-svg",
    forMaking: false,
    label: "SVG",
    of: "folded",
    ending: "svg",
    type: "image/svg+xml",
    make: (job) => ({ content: folded(job, 1200) }),
  },
  {
    key: "folded-png",
    forMaking: false,
    label: "PNG",
    of: "folded",
    ending: "png",
    type: "image/png",
    asDots: true,
    make: (job) => ({ content: folded(job, 1600) }),
  },
];

/** Every kind of file, without what makes it: a part leaves through `makeFile` only. */
export const FILE_FORMATS: readonly FileFormat[] = MAKERS;

export const fileFormat = (key: string): FileFormat | undefined => FILE_FORMATS.find((f) => f.key === key);

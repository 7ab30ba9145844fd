import { evenState } from "../../sheet/folding/fold.ts";
import type { FileJob } from "../file-format.ts";
import { foldedSurface } from "./folded-surface.ts";

/** Meshes in files are no farther than this from the true surfaces, mm. */
const CHORD = 0.02;

/** The closed surface of a part as files of solids have it. */
export const fileSurface = ({ build, document, fold = 1 }: FileJob) =>
  foldedSurface(build.sheet, evenState(build.sheet, fold), document.anchor, CHORD);

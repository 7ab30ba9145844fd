import type { Maker } from "../file-format.ts";
import { fileSurface } from "../stl/file-surface.ts";
import { writeGlb, writeGltf } from "./gltf.ts";

/** The folded part for viewers, in one binary file. */
export const glbFormat: Maker = {
  key: "glb",
  forMaking: true,
  label: "GLB",
  of: "folded",
  ending: "glb",
  type: "model/gltf-binary",
  make: (job) => ({ content: writeGlb(job.document.name, fileSurface(job), job.stops) }),
};

/** The same as text. */
export const gltfFormat: Maker = {
  key: "gltf",
  forMaking: true,
  label: "glTF",
  of: "folded",
  ending: "gltf",
  type: "model/gltf+json",
  make: (job) => ({ content: writeGltf(job.document.name, fileSurface(job), job.stops) }),
};

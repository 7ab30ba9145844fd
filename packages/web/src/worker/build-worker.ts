import {
  createExaminer,
  meshSheet,
  type PartBuild,
  type PartDocument,
  type SheetMesh,
} from "@hillcrest/core";
import { expose, transfer } from "comlink";

/** A finished build as it comes back to the page. `took` is the worker's own time in milliseconds. */
export interface BuildAnswer {
  readonly build: PartBuild;
  readonly mesh?: SheetMesh;
  readonly took: number;
}

const SCREEN_CHORD = 0.05;

const examine = createExaminer();

const api = {
  build(document: PartDocument): BuildAnswer {
    const start = performance.now();
    const build = examine(document);
    const mesh = build.sheet ? meshSheet(build.sheet, SCREEN_CHORD) : undefined;
    const answer = { build, mesh, took: performance.now() - start };
    if (!mesh) return answer;
    const buffers = [
      mesh.columns,
      mesh.columnOwner,
      mesh.faces,
      mesh.faceOwner,
      mesh.walls,
      mesh.wallOwner,
      mesh.wallNormals,
    ];
    return transfer(
      answer,
      buffers.map((b) => b.buffer as ArrayBuffer),
    );
  },
};

export type BuildApi = typeof api;
expose(api);

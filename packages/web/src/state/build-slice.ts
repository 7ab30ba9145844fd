import type { PartBuild, PartDocument, SheetMesh } from "@hillcrest/core";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";

/** A shape on screen: the build, its mesh, and the document it was made from. */
export interface Shape {
  readonly build: PartBuild;
  readonly mesh?: SheetMesh;
}

export interface BuildState {
  /** What the document says now, findings included. */
  readonly latest?: PartBuild;
  /** What is drawn: the latest, or the last good one while a value is wrong. */
  readonly shown?: Shape;
  readonly stale: boolean;
  readonly document?: PartDocument;
  /** The worker's time for the last build, in milliseconds. */
  readonly took?: number;
  readonly failed?: string;
}

const initialState: BuildState = { stale: false };

const wrongSteps = (build: PartBuild | undefined) =>
  new Set(build?.steps.filter((s) => s.state === "wrong").map((s) => s.id));

/**
 * While the step being edited is wrong the last good shape stays. As soon as something else is
 * edited, the part is shown as it is without the wrong step.
 */
function keepsShape(state: BuildState, build: PartBuild, edited: string | undefined): boolean {
  if (!state.shown) return false;
  if (!build.sheet) return build.findings.length > 0;
  const wrong = wrongSteps(build);
  if (wrong.size === 0) return false;
  const before = wrongSteps(state.latest);
  const fresh = [...wrong].some((id) => !before.has(id));
  return fresh || (state.stale && edited !== undefined && wrong.has(edited));
}

const slice = createSlice({
  name: "build",
  initialState,
  reducers: {
    built: (
      state,
      {
        payload,
      }: PayloadAction<{
        build: PartBuild;
        mesh?: SheetMesh;
        document: PartDocument;
        edited?: string;
        took: number;
      }>,
    ): BuildState => {
      const stale = keepsShape(state as BuildState, payload.build, payload.edited);
      return {
        latest: payload.build,
        shown: stale ? (state.shown as Shape) : { build: payload.build, mesh: payload.mesh },
        stale,
        document: payload.document,
        took: payload.took,
      };
    },
    buildFailed: (state, { payload }: PayloadAction<string>) => {
      state.failed = payload;
    },
    buildCleared: () => initialState,
  },
});

export const buildActions = slice.actions;
export const buildReducer = slice.reducer;

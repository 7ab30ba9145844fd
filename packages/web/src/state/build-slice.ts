import type { PartBuild, PartDocument, SheetMesh } from "@hillcrest/core";
import { createSlice, original, type PayloadAction } from "@reduxjs/toolkit";

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
  /** The typing or dragging during which the shape went stale. */
  readonly staleMark?: string;
  readonly document?: PartDocument;
  /** The worker's time for the last build, in milliseconds. */
  readonly took?: number;
  readonly failed?: string;
}

const initialState: BuildState = { stale: false };

const wrongSteps = (build: PartBuild | undefined) =>
  new Set(build?.steps.filter((s) => s.state === "wrong").map((s) => s.id));

/** What the person did last: the step it was done to, and a mark when a value was being typed or dragged. */
export interface LastEdit {
  readonly step?: string;
  readonly mark?: string;
}

/**
 * The last good shape stays while the step being edited is wrong, and while a value is being typed
 * that breaks others on its way. Other edits show the part as it is, without what is wrong.
 */
function keepsShape(state: BuildState, build: PartBuild, { step, mark }: LastEdit): boolean {
  if (!state.shown) return false;
  if (!build.sheet) return build.findings.length > 0;
  const wrong = wrongSteps(build);
  if (wrong.size === 0) return false;
  const before = wrongSteps(state.latest);
  const fresh = [...wrong].some((id) => !before.has(id));
  if (step !== undefined && wrong.has(step) && (fresh || state.stale)) return true;
  return mark !== undefined && (fresh || (state.stale && mark === state.staleMark));
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
        edit: LastEdit;
        took: number;
      }>,
    ): BuildState => {
      const before = original(state) as BuildState;
      const stale = keepsShape(before, payload.build, payload.edit);
      return {
        latest: payload.build,
        shown: stale ? before.shown : { build: payload.build, mesh: payload.mesh },
        stale,
        staleMark: stale ? payload.edit.mark : undefined,
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

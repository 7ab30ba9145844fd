import {
  type Finding,
  NO_METAL,
  notSearched,
  type PartBuild,
  type PartDocument,
  type TiledMesh,
  withCollisions,
} from "@hillcrest/core";
import { createAction, createSelector, type UnknownAction } from "@reduxjs/toolkit";
import type { PartsState } from "./part-slice.ts";
import type { ViewState } from "./view-slice.ts";

/** A shape on screen: the build, its mesh, and the document it was made from. */
export interface Shape {
  readonly build: PartBuild;
  readonly mesh?: TiledMesh;
}

export interface BuildState {
  /** What the document says now, findings included. */
  readonly latest?: PartBuild;
  /** What is drawn: the latest, or the last good one while a value is wrong. */
  readonly shown?: Shape;
  /** What was drawn before something that is only tried took its place for a moment. */
  readonly behindPreview?: Shape;
  readonly stale: boolean;
  /** The typing or dragging during which the shape went stale. */
  readonly staleMark?: string;
  readonly document?: PartDocument;
  /** What was found to stand in one another, and of which document: until the next is looked at, the last. */
  readonly collisions?: Checked;
  /** The worker's time for the last build, in milliseconds. */
  readonly took?: number;
  readonly failed?: string;
  /** How far a build is that takes its time. */
  readonly progress?: BuildProgress;
  /** The document of which a person has stopped the build. */
  readonly stopped?: PartDocument;
  /** The corners that a step can be given, while they are picked for it. */
  readonly corners?: OfferedCorners;
}

/** How far a build is, from 0 to 1, and what is being done. */
export interface BuildProgress {
  readonly share: number;
  readonly doing: string;
}

/** What a search for collisions gave. */
export interface Checked {
  readonly document: PartDocument;
  readonly findings: readonly Finding[];
  /** Why it gave nothing. */
  readonly failed?: string;
}

export interface OfferedCorners {
  readonly step: string;
  readonly names: ReadonlySet<string>;
}

const noBuild: BuildState = { stale: false };

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
  // Where all steps were taken out there is nothing to show; else one that is wrong makes nothing just now.
  if (!build.sheet) return build.findings.some((f) => f.rule !== NO_METAL);
  const wrong = wrongSteps(build);
  if (wrong.size === 0) return false;
  const before = wrongSteps(state.latest);
  const fresh = [...wrong].some((id) => !before.has(id));
  if (step !== undefined && wrong.has(step) && (fresh || state.stale)) return true;
  return mark !== undefined && (fresh || (state.stale && mark === state.staleMark));
}

/** A build that has arrived: what came out, of which document, after what edit. */
export interface Arrived {
  readonly build: PartBuild;
  readonly mesh?: TiledMesh;
  readonly document: PartDocument;
  readonly edit: LastEdit;
  readonly took: number;
}

/** The builds of one part after another has arrived. */
export function withBuild(before: BuildState, { build, mesh, document, edit, took }: Arrived): BuildState {
  const stale = keepsShape(before, build, edit);
  return {
    latest: build,
    shown: stale ? (before.behindPreview ?? before.shown) : { build, mesh },
    stale,
    staleMark: stale ? edit.mark : undefined,
    document,
    took,
    corners: before.corners,
    collisions: before.collisions,
  };
}

const NO_FINDINGS: readonly Finding[] = [];

/** All findings of a build: what its own checks say and what stands in one another, the gravest first. */
export const findingsOf = createSelector(
  [
    ({ latest }: BuildState) => latest,
    ({ collisions }: BuildState) => collisions?.findings ?? NO_FINDINGS,
    ({ document }: BuildState) => document,
  ],
  (latest, collisions, document): readonly Finding[] =>
    latest && document && latest.sheet && collisions.length > 0
      ? withCollisions(latest, collisions, document).findings
      : (latest?.findings ?? NO_FINDINGS),
);

/** What the search for collisions found in the document as it is; where it could not be made, that stops the part. */
export function collisionsOf({ document, collisions }: BuildState): readonly Finding[] {
  if (collisions && collisions.document === document && collisions.failed === undefined)
    return collisions.findings;
  return [notSearched(collisions?.failed ?? "the search has not ended.")];
}

/** What is known so far of a document: nothing while it is still searched. */
export const knownCollisions = (
  { collisions }: BuildState,
  document: PartDocument | undefined,
): readonly Finding[] => (collisions?.document === document ? collisions!.findings : NO_FINDINGS);

/** Whether collisions are still being looked for in what the document says now. */
export const isChecking = ({ document, collisions }: BuildState): boolean =>
  document !== undefined && collisions?.document !== document;

/** Builds by part. */
export type BuildsState = Readonly<Record<string, BuildState>>;

export const buildActions = {
  built: createAction<Arrived & { part: string }>("build/built"),
  buildFailed: createAction<{ part: string; message: string }>("build/failed"),
  progressed: createAction<BuildProgress & { part: string }>("build/progressed"),
  stopped: createAction<{ part: string; document: PartDocument }>("build/stopped"),
  cornersFound: createAction<OfferedCorners & { part: string }>("build/cornersFound"),
  checked: createAction<{ part: string; document: PartDocument; findings: readonly Finding[] }>(
    "build/checked",
  ),
  checkFailed: createAction<{ part: string; document: PartDocument; message: string }>("build/checkFailed"),
  previewed: createAction<{ part: string; shape: Shape }>("build/previewed"),
  previewEnded: createAction<string>("build/previewEnded"),
  buildCleared: createAction<string>("build/cleared"),
};

// Plain records: sheets and meshes are large, and no proxy should walk them.
export function buildsReducer(state: BuildsState = {}, action: UnknownAction): BuildsState {
  if (buildActions.built.match(action)) {
    const { part, ...arrived } = action.payload;
    return { ...state, [part]: withBuild(state[part] ?? noBuild, arrived) };
  }
  if (buildActions.buildFailed.match(action)) {
    const { part, message } = action.payload;
    return { ...state, [part]: { ...(state[part] ?? noBuild), failed: message, progress: undefined } };
  }
  if (buildActions.progressed.match(action)) {
    const { part, ...progress } = action.payload;
    return { ...state, [part]: { ...(state[part] ?? noBuild), progress, stopped: undefined } };
  }
  if (buildActions.stopped.match(action)) {
    const { part, document: stopped } = action.payload;
    return { ...state, [part]: { ...(state[part] ?? noBuild), progress: undefined, stopped } };
  }
  if (buildActions.cornersFound.match(action)) {
    const { part, ...corners } = action.payload;
    return { ...state, [part]: { ...(state[part] ?? noBuild), corners } };
  }
  if (buildActions.checked.match(action)) {
    const { part, ...collisions } = action.payload;
    return { ...state, [part]: { ...(state[part] ?? noBuild), collisions } };
  }
  if (buildActions.checkFailed.match(action)) {
    const { part, document, message } = action.payload;
    const collisions = { document, findings: NO_FINDINGS, failed: message };
    return { ...state, [part]: { ...(state[part] ?? noBuild), collisions } };
  }
  if (buildActions.previewed.match(action)) {
    const { part, shape } = action.payload;
    const now = state[part];
    if (!now?.shown || !shape.build.sheet) return state;
    return { ...state, [part]: { ...now, shown: shape, behindPreview: now.behindPreview ?? now.shown } };
  }
  if (buildActions.previewEnded.match(action)) {
    const now = state[action.payload];
    if (!now?.behindPreview) return state;
    return { ...state, [action.payload]: { ...now, shown: now.behindPreview, behindPreview: undefined } };
  }
  if (buildActions.buildCleared.match(action)) {
    const { [action.payload]: _gone, ...others } = state;
    return others;
  }
  return state;
}

/** The builds of the open part. */
export const openBuild = ({ parts, builds }: { readonly parts: PartsState; readonly builds: BuildsState }) =>
  (parts.open === undefined ? undefined : builds[parts.open]) ?? noBuild;

/** The corners that the step for which corners are being picked can be given; nothing until they are known. */
export const offeredCorners = (
  state: { readonly view: ViewState } & Parameters<typeof openBuild>[0],
): ReadonlySet<string> | undefined => {
  const { pickingFor } = state.view;
  const { corners } = openBuild(state);
  return pickingFor?.of === "corner" && corners?.step === pickingFor.step ? corners.names : undefined;
};

import { type PartCommand, type PartDocument, sameValue } from "@hillcrest/core";
import { createAction, type UnknownAction } from "@reduxjs/toolkit";
import { emptyTrail, joins, noted, steppedBack, steppedOn, type Trail } from "./trail.ts";

/**
 * What changes documents. It knows all kinds of step, which the Shelf need not wait for: `part-tools.ts` brings it
 * along with the pages that a part is opened on.
 */
export type PartTools = Pick<
  typeof import("@hillcrest/core"),
  "applyCommand" | "patchBetween" | "withCommand"
>;

const brought: { tools?: PartTools } = {};

export const bringPartTools = (tools: PartTools): void => {
  brought.tools = tools;
};

function tools(): PartTools {
  if (!brought.tools) throw new Error("A part is opened before what changes parts is there.");
  return brought.tools;
}

/** Where saving stands. */
export type Saving =
  | { readonly at: "saved" }
  | { readonly at: "waiting" }
  | { readonly at: "saving" }
  /** The server is away, or cannot write just now, for a reason that it gives: it is tried again. */
  | { readonly at: "unreachable"; readonly tries: number; readonly why?: string }
  | { readonly at: "refused"; readonly message: string };

/** The newer part that another window saved meanwhile. */
export interface Conflict {
  readonly revision: number;
  readonly document: PartDocument;
}

export interface PartState {
  readonly id?: string;
  readonly revision: number;
  readonly document?: PartDocument;
  /** What the server has. */
  readonly saved?: PartDocument;
  /** What was done since, and has not been sent. */
  readonly unsent: readonly PartCommand[];
  /** What is on its way to the server. */
  readonly sending: readonly PartCommand[];
  readonly trail: Trail<PartCommand>;
  readonly lastEdited?: string;
  readonly saving: Saving;
  /** Whether what is unsaved is in this browser alone in this window: its storage is full or forbidden. */
  readonly unkept?: boolean;
  readonly conflict?: Conflict;
}

const initialState: PartState = {
  revision: 0,
  unsent: [],
  sending: [],
  trail: emptyTrail,
  saving: { at: "saved" },
};

/** More commands than these go as one. */
const MOST_APART = 100;

/** What brings the server to what is here; nothing when it is there, or may not be. */
export function commandsToSave(state: PartState): readonly PartCommand[] | undefined {
  const { document, saved, conflict, unsent, sending } = state;
  if (!document || !saved || document === saved || conflict) return undefined;
  // After long work without the server, or beside a save that is under way, the whole difference goes at once.
  const whole = sending.length > 0 || unsent.length > MOST_APART;
  return whole ? [tools().patchBetween(saved, document)] : unsent;
}

/** Where saving stands once the part is this document: what the server has needs no saving. */
function savingOf({ saved, saving, conflict }: PartState, document: PartDocument): Saving {
  if (conflict) return saving;
  if (document === saved) return { at: "saved" };
  return saving.at === "unreachable" ? saving : { at: "waiting" };
}

/** The part after a command, and the command that takes it back; nothing when it does not go. */
function done(state: PartState, command: PartCommand | undefined) {
  const result = state.document && command && tools().applyCommand(state.document, command);
  return result?.ok ? result.value : undefined;
}

/** The state with another document, which a command has made. What the server has already is not sent again. */
function withDocument(state: PartState, document: PartDocument, command: PartCommand): PartState {
  const unsent = tools().withCommand(state.unsent, command);
  const back = state.sending.length === 0 && state.saved && sameValue(document, state.saved);
  const now = back ? state.saved : document;
  return { ...state, document: now, unsent: back ? [] : unsent, saving: savingOf(state, now) };
}

type Handler = (state: PartState, payload: never) => PartState;
const handlers = new Map<string, Handler>();

/**
 * An action with what it does to a part: the open one, if none is named. Plain records: documents are told apart by
 * identity, which drafts would not keep.
 */
function action<P = void>(name: string, handle: (state: PartState, payload: P) => PartState) {
  const type = `part/${name}`;
  handlers.set(type, handle as Handler);
  return createAction(type, (payload: P, part?: string) => ({ payload, meta: { part } }));
}

export const partActions = {
  opened: action<{ id: string; revision: number; document: PartDocument; unsaved?: PartDocument }>(
    "opened",
    (_state, { id, revision, document, unsaved }) => ({
      ...initialState,
      id,
      revision,
      saved: document,
      document: unsaved ?? document,
      unsent: unsaved ? [tools().patchBetween(document, unsaved)] : [],
      trail: unsaved ? noted(emptyTrail, tools().patchBetween(unsaved, document)) : emptyTrail,
      saving: { at: unsaved ? "waiting" : "saved" },
    }),
  ),
  /** The page has left it. What is unsaved goes on being saved. */
  closed: action("closed", (state) => state),
  edited: action<{ command: PartCommand; step?: string; mark?: string }>(
    "edited",
    (state, { command, step, mark }) => {
      const now = done(state, command);
      if (!now || sameValue(now.document, state.document)) return state;
      const { trail } = state;
      const first = joins(trail, mark) ? done(state, trail.past.at(-1)) : undefined;
      const undo = first ? tools().patchBetween(now.document, first.document) : now.undo;
      return {
        ...withDocument(state, now.document, command),
        trail: noted(trail, undo, mark),
        lastEdited: step,
      };
    },
  ),
  undone: action("undone", (state) => {
    const command = state.trail.past.at(-1);
    const now = done(state, command);
    if (!now) return state;
    return {
      ...withDocument(state, now.document, command!),
      trail: steppedBack(state.trail, now.undo),
      lastEdited: undefined,
    };
  }),
  redone: action("redone", (state) => {
    const [command] = state.trail.future;
    const now = done(state, command);
    if (!now) return state;
    return {
      ...withDocument(state, now.document, command),
      trail: steppedOn(state.trail, now.undo),
      lastEdited: undefined,
    };
  }),
  /** What was unsent is on its way now. */
  saveBegun: action("saveBegun", (state) => ({
    ...state,
    sending: state.unsent,
    unsent: [],
    saving: { at: "saving" },
  })),
  /** It did not arrive: it is to be sent with what was done since. */
  saveFailed: action<Saving>("saveFailed", (state, saving) => ({
    ...state,
    unsent: [...state.sending, ...state.unsent],
    sending: [],
    saving,
  })),
  saveLanded: action<{ revision: number; document: PartDocument }>(
    "saveLanded",
    (state, { revision, document }) => ({
      ...state,
      revision,
      saved: document,
      sending: [],
      saving: { at: document === state.document ? "saved" : "waiting" },
    }),
  ),
  /** Whether the browser has kept what is not saved yet. */
  draftKept: action<boolean>("draftKept", (state, kept) =>
    (state.unkept ?? false) === !kept ? state : { ...state, unkept: !kept },
  ),
  conflictFound: action<Conflict>("conflictFound", (state, conflict) => ({ ...state, conflict })),
  /** Goes on from the newer revision: with the own document, or with the other one. */
  conflictSettled: action<{ keep: "mine" | "theirs" }>("conflictSettled", (state, { keep }) => {
    const { conflict, document: mine } = state;
    if (!conflict || !mine) return state;
    const { document: other, revision } = conflict;
    const theirs = keep === "theirs";
    return {
      ...state,
      conflict: undefined,
      revision,
      saved: other,
      document: theirs ? other : mine,
      unsent: theirs ? [] : [tools().patchBetween(other, mine)],
      sending: [],
      trail: theirs
        ? noted(state.trail, tools().patchBetween(other, mine))
        : { ...state.trail, mark: undefined },
      saving: { at: theirs ? "saved" : "waiting" },
    };
  }),
};

/** One part, by what is done to it. */
export function partReducer(state: PartState = initialState, action: UnknownAction): PartState {
  const handle = handlers.get(action.type);
  return handle ? handle(state, (action as unknown as { payload: never }).payload) : state;
}

/** The parts at hand, by their ids: the one that is open, and those that still have something to save. */
export interface PartsState {
  readonly open?: string;
  readonly parts: Readonly<Record<string, PartState>>;
}

interface PartAction extends UnknownAction {
  readonly meta: { readonly part?: string };
}

const isPartAction = (action: UnknownAction): action is PartAction => handlers.has(action.type);

const isSaved = ({ document, saved }: PartState): boolean => document === saved;

function withPart({ open, parts }: PartsState, id: string, part: PartState): PartsState {
  // What is neither open nor unsaved need not be kept: the server has it.
  if (id === open || !isSaved(part)) return { open, parts: { ...parts, [id]: part } };
  const { [id]: _done, ...others } = parts;
  return { open, parts: others };
}

export function partsReducer(state: PartsState = { parts: {} }, action: UnknownAction): PartsState {
  if (!isPartAction(action)) return state;
  if (partActions.opened.match(action)) {
    const { id } = action.payload;
    const before = state.parts[id];
    // One that is still being saved is further on than what was read.
    const part = before && !isSaved(before) ? before : partReducer(before, action);
    return withPart({ ...state, open: id }, id, part);
  }
  const id = action.meta.part ?? state.open;
  const part = id === undefined ? undefined : state.parts[id];
  if (id === undefined || !part) return state;
  if (partActions.closed.match(action))
    return withPart({ ...state, open: id === state.open ? undefined : state.open }, id, part);
  const next = partReducer(part, action);
  return next === part ? state : withPart(state, id, next);
}

/** The part that is open; an empty one when none is. */
export const openPart = ({ parts }: { readonly parts: PartsState }): PartState =>
  (parts.open === undefined ? undefined : parts.parts[parts.open]) ?? initialState;

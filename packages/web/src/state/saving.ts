import { type PartCommand, type PartDocument, sameValue } from "@hillcrest/core";
import { Refused, Unreachable } from "../api/ask.ts";
import { partsApi, type StoredPart } from "../api/parts-api.ts";
import { type Draft, keepDraft } from "./drafts.ts";
import { commandsToSave, type PartState, type PartsState, partActions } from "./part-slice.ts";
import { store, whenChanged } from "./store.ts";

const PAUSE_MS = 500;
const LONGEST_RETRY_MS = 15_000;
/** The server says that it cannot write just now. */
const CANNOT_WRITE = 507;

/** Where the saving of one part stands: the next save that is planned, and the one under way. */
interface Turn {
  timer?: ReturnType<typeof setTimeout>;
  under?: Promise<void>;
  /** What the save under way sends. */
  sending?: PartDocument;
  tries: number;
}

const turns = new Map<string, Turn>();

function turnOf(id: string): Turn {
  const turn = turns.get(id) ?? { tries: 0 };
  turns.set(id, turn);
  return turn;
}

interface Job extends Draft {
  readonly commands: readonly PartCommand[];
}

const partNow = (id: string): PartState | undefined => store.getState().parts.parts[id];

/** What is to be sent for a part; nothing when the server has it all. */
function unsaved(id: string): Job | undefined {
  const part = partNow(id);
  const commands = part && commandsToSave(part);
  return part?.document && commands
    ? { document: part.document, revision: part.revision, commands }
    : undefined;
}

function save(id: string): Promise<void> {
  const turn = turnOf(id);
  clearTimeout(turn.timer);
  const job = unsaved(id);
  if (job && !turn.under) turn.under = run(id, turn, job);
  return turn.under ?? Promise.resolve();
}

async function run(id: string, turn: Turn, { document, revision: from, commands }: Job): Promise<void> {
  turn.sending = document;
  store.dispatch(partActions.saveBegun(undefined, id));
  try {
    const { revision } = await partsApi.edit(id, from, commands);
    turn.tries = 0;
    landed(id, { revision, document });
  } catch (error) {
    saveFailed(id, turn, document, error);
  }
  turn.under = undefined;
  turn.sending = undefined;
  if (!unsaved(id)) {
    turns.delete(id);
    return;
  }
  const at = partNow(id)?.saving.at;
  if (at !== "refused") schedule(id, at === "unreachable" ? retryDelay(turn) : PAUSE_MS);
}

/** The server has a document: what was done since stays a draft. */
function landed(id: string, { revision, document }: Draft): void {
  store.dispatch(partActions.saveLanded({ revision, document }, id));
  const rest = unsaved(id);
  keep(id, rest && { revision, document: rest.document });
}

/** Drafts that the browser had no room for are tried again after so long, ms. */
const ROOM_MS = 5000;
const room: { waiting?: ReturnType<typeof setInterval> } = {};

/** Keeps a draft, and says in the part whether it could: while it could not, closing the page would lose what was typed. */
function keep(id: string, draft: Draft | undefined): void {
  const kept = keepDraft(id, draft);
  if (partNow(id)) store.dispatch(partActions.draftKept(kept, id));
  if (!kept) room.waiting ??= setInterval(keepUnkept, ROOM_MS);
}

/** Tries to keep what had no room. */
function keepUnkept(): void {
  const unkept = Object.entries(store.getState().parts.parts).filter(([, part]) => part.unkept);
  for (const [id] of unkept) {
    const job = unsaved(id);
    keep(id, job && { revision: job.revision, document: job.document });
  }
  if (unkept.length > 0) return;
  clearInterval(room.waiting);
  room.waiting = undefined;
}

/** Whether closing the page now would lose something: it is not saved, and this browser has not kept it. */
export const wouldLose = (parts: PartsState["parts"]): boolean =>
  Object.entries(parts).some(([id, part]) => part.unkept === true && unsaved(id) !== undefined);

const retryDelay = ({ tries }: Turn) => Math.min(LONGEST_RETRY_MS, 500 * 2 ** Math.min(tries, 6));

function saveFailed(id: string, turn: Turn, mine: PartDocument, error: unknown): void {
  const failed = partActions.saveFailed;
  if (error instanceof Refused && error.status === 409 && error.problem.current) {
    const { revision, document } = error.problem.current as StoredPart;
    // What this window sent as it was left may have come in after it was opened again: then it is saved.
    if (sameValue(document, mine)) {
      landed(id, { revision, document: mine });
      return;
    }
    store.dispatch(partActions.conflictFound({ revision, document }, id));
    store.dispatch(failed({ at: "refused", message: "It was saved elsewhere too" }, id));
  } else if (error instanceof Unreachable) {
    turn.tries++;
    store.dispatch(failed({ at: "unreachable", tries: turn.tries }, id));
  } else if (error instanceof Refused && error.status === CANNOT_WRITE) {
    // No room on the disk, or another program holds the database: that passes, and nothing is wrong with the part.
    turn.tries++;
    store.dispatch(failed({ at: "unreachable", tries: turn.tries, why: error.message }, id));
  } else store.dispatch(failed({ at: "refused", message: (error as Error).message }, id));
}

function schedule(id: string, delay: number): void {
  const turn = turnOf(id);
  clearTimeout(turn.timer);
  turn.timer = setTimeout(() => void save(id), delay);
}

/** Keeps what has changed of a part in the browser, and plans to send it. */
function changed(id: string, part: PartState): void {
  const job = unsaved(id);
  if (job) {
    const { sending } = turnOf(id);
    keep(id, { revision: job.revision, document: job.document, ...(sending ? { sending } : {}) });
    schedule(id, part.saving.at === "unreachable" ? retryDelay(turnOf(id)) : PAUSE_MS);
  } else if (part.saving.at === "saved") keep(id, undefined);
}

const each = (parts: PartsState["parts"], visit: (id: string, part: PartState) => void): void => {
  for (const [id, part] of Object.entries(parts)) visit(id, part);
};

/** Saves each part a while after its changes, tries again while the server is away, and at the window's end. */
export function startSaving(): void {
  whenChanged(
    (s) => s.parts.parts,
    (now, before) =>
      each(now, (id, part) => {
        if (part.document !== before[id]?.document && before[id]) changed(id, part);
      }),
  );
  const all = () => store.getState().parts.parts;
  window.addEventListener("online", () => each(all(), (id) => schedule(id, 0)));
  window.addEventListener("beforeunload", (e) => {
    if (wouldLose(all())) e.preventDefault();
  });
  window.addEventListener("pagehide", () =>
    each(all(), (id) => {
      const job = unsaved(id);
      if (job) void partsApi.edit(id, job.revision, job.commands, true).catch(() => undefined);
    }),
  );
}

/** Settles when the saves under way have ended, however they did. */
export const lastSaves = async (): Promise<void> => {
  await Promise.all([...turns.values()].map((t) => t.under));
};

/** Saves a part at once. */
export const saveNow = (id: string): Promise<void> => save(id);

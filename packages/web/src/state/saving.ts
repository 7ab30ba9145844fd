import { type PartCommand, type PartDocument, patchBetween } from "@hillcrest/core";
import { Refused, Unreachable } from "../api/ask.ts";
import { partsApi, type StoredPart } from "../api/parts-api.ts";
import { commandsToSave, partActions } from "./part-slice.ts";
import { store } from "./store.ts";

const PAUSE_MS = 500;
const LONGEST_RETRY_MS = 15_000;

const draftKey = (id: string) => `hillcrest:unsaved:${id}`;

interface Draft {
  readonly revision: number;
  readonly document: PartDocument;
}

/** What was typed but had not reached the server, which has `kept`, when the window last closed. */
export function readDraft(id: string, kept: PartDocument): Draft | undefined {
  try {
    const text = localStorage.getItem(draftKey(id));
    const draft = text ? (JSON.parse(text) as Draft) : undefined;
    if (!draft || JSON.stringify(draft.document) !== JSON.stringify(kept)) return draft;
    // It did arrive, as the window closed: later it would look like another's work.
    keepDraft(id, undefined);
    return undefined;
  } catch {
    return undefined;
  }
}

function keepDraft(id: string, draft: Draft | undefined): void {
  try {
    if (draft) localStorage.setItem(draftKey(id), JSON.stringify(draft));
    else localStorage.removeItem(draftKey(id));
  } catch {
    // A full or forbidden storage only loses the second line of defence; the server is the first.
  }
}

let timer: ReturnType<typeof setTimeout> | undefined;
let running = false;
let tries = 0;

const unsaved = (): Job | undefined => {
  const { part } = store.getState();
  const { id, document, revision } = part;
  const commands = commandsToSave(part);
  return id && document && commands ? { id, document, revision, commands } : undefined;
};

interface Job extends Draft {
  readonly id: string;
  readonly commands: readonly PartCommand[];
}

let pending: Promise<void> = Promise.resolve();

function save(): Promise<void> {
  const job = unsaved();
  if (job && !running) pending = run(job);
  return pending;
}

async function run(job: Job): Promise<void> {
  running = true;
  store.dispatch(partActions.saveBegun());
  const isOpen = () => store.getState().part.id === job.id;
  try {
    const { revision } = await partsApi.edit(job.id, job.revision, job.commands);
    tries = 0;
    if (isOpen()) {
      store.dispatch(partActions.saveLanded({ revision, document: job.document }));
      const rest = unsaved();
      keepDraft(job.id, rest && { revision, document: rest.document });
    } else await saveRest(job, revision);
  } catch (error) {
    if (isOpen()) saveFailed(error);
  } finally {
    running = false;
  }
  const { saving } = store.getState().part;
  if (unsaved() && saving.at !== "refused") schedule(saving.at === "unreachable" ? retryDelay() : PAUSE_MS);
}

/** What was done to a part while a save of it was under way, and it was left before the next could begin. */
async function saveRest({ id, document }: Job, revision: number): Promise<void> {
  const rest = readDraft(id, document);
  if (!rest) return;
  keepDraft(id, { revision, document: rest.document });
  await partsApi.edit(id, revision, [patchBetween(document, rest.document)]);
  keepDraft(id, undefined);
}

const retryDelay = () => Math.min(LONGEST_RETRY_MS, 500 * 2 ** Math.min(tries, 6));

function saveFailed(error: unknown): void {
  if (error instanceof Refused && error.status === 409 && error.body.current) {
    const { revision, document } = error.body.current as StoredPart;
    store.dispatch(partActions.conflictFound({ revision, document }));
    store.dispatch(partActions.saveFailed({ at: "refused", message: "It was saved elsewhere too" }));
  } else if (error instanceof Unreachable) {
    tries++;
    store.dispatch(partActions.saveFailed({ at: "unreachable", tries }));
  } else {
    store.dispatch(partActions.saveFailed({ at: "refused", message: (error as Error).message }));
  }
}

function schedule(delay: number): void {
  clearTimeout(timer);
  timer = setTimeout(() => void save(), delay);
}

/** Saves a while after each change, tries again while the server is away, and at the window's end. */
export function startSaving(): void {
  let last = store.getState().part.document;
  store.subscribe(() => {
    const { id, document, saving } = store.getState().part;
    if (document === last) return;
    last = document;
    const job = unsaved();
    if (id && job) {
      keepDraft(id, { revision: job.revision, document: job.document });
      schedule(saving.at === "unreachable" ? retryDelay() : PAUSE_MS);
    } else if (id && saving.at === "saved") keepDraft(id, undefined);
  });
  window.addEventListener("online", () => schedule(0));
  window.addEventListener("pagehide", () => {
    const job = unsaved();
    if (job) void partsApi.edit(job.id, job.revision, job.commands, true).catch(() => undefined);
  });
}

/** Settles when the save under way has ended, however it did. */
export const lastSave = (): Promise<void> => pending;

/** Saves at once, before leaving a part. */
export const saveNow = (): Promise<void> => {
  clearTimeout(timer);
  return save();
};

import type { PartCommand, PartDocument } from "@hillcrest/core";
import type {
  ExportEntry,
  NewExport,
  PartEntry,
  PartPictures,
  PartPreview,
  RevisionEntry,
  StoredPart,
  StoredRevision,
} from "@hillcrest/server";
import { ask, BUILT_PATIENCE_MS } from "./ask.ts";

export type {
  ExportEntry,
  NewExport,
  PartEntry,
  PartPictures,
  PartPreview,
  RevisionEntry,
  StoredPart,
  StoredRevision,
};

interface Saved {
  readonly revision: number;
  readonly updatedAt: string;
}

export const partsApi = {
  list: (binned: boolean) => ask<PartEntry[]>("GET", `/parts${binned ? "?bin=1" : ""}`),
  read: (id: string) => ask<StoredPart>("GET", `/parts/${id}`),
  pictures: (id: string, revision: number) =>
    ask<PartPictures>("GET", `/parts/${id}/pictures?revision=${revision}`),
  create: (document: PartDocument) => ask<StoredPart>("POST", "/parts", { document }),
  edit: (id: string, revision: number, commands: readonly PartCommand[], leaving = false) =>
    ask<Saved>("PATCH", `/parts/${id}`, { revision, commands }, { keepalive: leaving }),
  copy: (id: string, follows = false) => ask<StoredPart>("POST", `/parts/${id}/copy`, { follows }),
  bin: (id: string) => ask<void>("DELETE", `/parts/${id}`),
  restore: (id: string) => ask<StoredPart>("POST", `/parts/${id}/restore`),
  revisions: (id: string, before?: number) =>
    ask<RevisionEntry[]>("GET", `/parts/${id}/revisions${before === undefined ? "" : `?before=${before}`}`),
  revision: (id: string, number: number) => ask<StoredRevision>("GET", `/parts/${id}/revisions/${number}`),
  preview: (id: string, number: number) =>
    ask<PartPreview>("GET", `/parts/${id}/revisions/${number}/preview`, undefined, {
      patience: BUILT_PATIENCE_MS,
    }),
  takeBack: (id: string, revision: number, to: number) =>
    ask<Saved>("POST", `/parts/${id}/revisions/${to}/restore`, { revision }),
  callRevision: (id: string, number: number, name: string | null) =>
    ask<void>("PUT", `/parts/${id}/revisions/${number}/name`, { name }),
  exports: (id: string) => ask<ExportEntry[]>("GET", `/parts/${id}/exports`),
  noteExport: (id: string, entry: NewExport) => ask<ExportEntry>("POST", `/parts/${id}/exports`, entry),
  addDemo: () => ask<{ added: number }>("POST", "/demo"),
};

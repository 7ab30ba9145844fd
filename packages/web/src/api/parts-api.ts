import type { PartDocument } from "@hillcrest/core";
import type { PartEntry, PartPictures, StoredPart } from "@hillcrest/server";
import { ask } from "./ask.ts";

export type { PartEntry, PartPictures, StoredPart };

export const partsApi = {
  list: (binned: boolean) => ask<PartEntry[]>("GET", `/parts${binned ? "?bin=1" : ""}`),
  read: (id: string) => ask<StoredPart>("GET", `/parts/${id}`),
  pictures: (id: string, revision: number) =>
    ask<PartPictures>("GET", `/parts/${id}/pictures?revision=${revision}`),
  create: (document: PartDocument) => ask<StoredPart>("POST", "/parts", { document }),
  save: (id: string, revision: number, document: PartDocument, leaving = false) =>
    ask<{ revision: number; updatedAt: string }>("PUT", `/parts/${id}`, { revision, document }, leaving),
  copy: (id: string, follows = false) => ask<StoredPart>("POST", `/parts/${id}/copy`, { follows }),
  bin: (id: string) => ask<void>("DELETE", `/parts/${id}`),
  restore: (id: string) => ask<StoredPart>("POST", `/parts/${id}/restore`),
  addDemo: () => ask<{ added: number }>("POST", "/demo"),
};

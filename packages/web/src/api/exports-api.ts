import type { ExportPreset } from "@hillcrest/core";
import type { BatchState } from "@hillcrest/server";
import { ask } from "./ask.ts";

export type { BatchState };

/** What many parts are to leave as. */
export interface ManyRequest {
  readonly parts: readonly { readonly id: string; readonly quantity: number }[];
  readonly as: "zip" | "together";
  readonly format: string;
  readonly preset?: string | ExportPreset;
  readonly pattern: string;
  readonly spacing: number;
  readonly stocks: "files" | "groups";
  readonly apart: boolean;
  readonly anyway: boolean;
  readonly by: string;
}

export const exportsApi = {
  begin: (request: ManyRequest) => ask<BatchState>("POST", "/exports", request),
  state: (job: string) => ask<BatchState>("GET", `/exports/${job}`),
  drop: (job: string) => ask<void>("DELETE", `/exports/${job}`),
  /** Where the finished file is fetched. */
  file: (job: string) => `/api/exports/${job}/file`,
};

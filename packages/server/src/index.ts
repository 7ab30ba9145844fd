export { type AppOptions, createApp } from "./app.ts";
export { BuildPool } from "./builds/build-pool.ts";
export { type Asker, Turns } from "./builds/turns.ts";
export { whenCalm } from "./builds/when-calm.ts";
export { closeDatabase, openDatabase } from "./data-source.ts";
export { databaseTrouble } from "./database-trouble.ts";
export { addDemoParts, addDemoStock } from "./demo.ts";
export type { BatchState } from "./exports/batch-jobs.ts";
export type { ExportEntry, NewExport } from "./exports/export-log.ts";
export { openApi } from "./openapi.ts";
export { KnownFindings } from "./parts/known-findings.ts";
export { PartHistory, type RevisionEntry, type StoredRevision } from "./parts/part-history.ts";
export type { PartEntry, StoredPart } from "./parts/part-service.ts";
export { PartService } from "./parts/part-service.ts";
export type { PartPictures, PartPreview, PartSummary } from "./parts/preview.ts";
export { thinnedOut } from "./parts/thinning.ts";
export type { CardChange, PartNumbers } from "./stock/card-change.ts";
export { type ImpactLine, type PartBehind, type PartChange, stockImpact } from "./stock/stock-impact.ts";
export { type StockEntry, StockService } from "./stock/stock-service.ts";
export {
  type TakenPart,
  type TakeOverEntry,
  TakeOverJobs,
  type TakeOverState,
} from "./stock/take-over-jobs.ts";
export { inTurn } from "./write-turns.ts";

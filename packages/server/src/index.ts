export { type AppOptions, createApp } from "./app.ts";
export { closeDatabase, openDatabase } from "./data-source.ts";
export { addDemoParts } from "./demo.ts";
export type { PartEntry, StoredPart } from "./parts/part-service.ts";
export { PartService } from "./parts/part-service.ts";
export type { PartPreview } from "./parts/preview.ts";

export { type AppOptions, createApp } from "./app.ts";
export { closeDatabase, openDatabase } from "./data-source.ts";
export { addDemoParts, addDemoStock } from "./demo.ts";
export type { PartEntry, StoredPart } from "./parts/part-service.ts";
export { PartService } from "./parts/part-service.ts";
export type { PartPreview } from "./parts/preview.ts";
export type { PartNumbers, StockImpact } from "./stock/stock-impact.ts";
export { type StockEntry, StockService } from "./stock/stock-service.ts";

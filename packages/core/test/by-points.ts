import { migrate, type PartDocument } from "../src/index.ts";

/** A part some of whose shapes are tables of points, as documents of version 2 had them, as the part that it is now. */
export function byPoints(document: PartDocument): PartDocument {
  if (!document.steps.some((s) => "points" in s)) return document;
  const now = migrate({ ...document, version: 2 });
  if (!now.ok) throw new Error(now.error);
  return now.value as unknown as PartDocument;
}

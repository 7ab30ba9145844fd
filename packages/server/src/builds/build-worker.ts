import { type CardSnapshot, examinePart, type PartDocument } from "@hillcrest/core";
import { type PartPreview, previewOf } from "../parts/preview.ts";
import { type CardChange, changeByCard } from "../stock/card-change.ts";

/** What runs on a worker thread: everything that builds a part. */
export const preview = (document: PartDocument): PartPreview => previewOf(document, examinePart(document));

export const cardChange = ({ document, card }: { document: PartDocument; card: CardSnapshot }): CardChange =>
  changeByCard(document, card);

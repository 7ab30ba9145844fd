/** A text as it stands in XML, in an element or in quotes: without what no XML can hold. */
export const xmlText = (text: string): string =>
  text
    .replace(/[^\x20-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]/gu, " ")
    .replaceAll("&", "&amp;")
    .replaceAll("<", "&lt;")
    .replaceAll(">", "&gt;")
    .replaceAll('"', "&quot;");

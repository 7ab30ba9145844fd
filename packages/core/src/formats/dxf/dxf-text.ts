import { plainText } from "../drawing/strokes.ts";

/** A remark is one line of plain text; what would not be is left out of it. */
export const dxfRemark = (text: string): string => text.replace(/[^\x20-\x7e]+/g, " ").slice(0, 250);

/** Signs that the format has codes of its own for. */
const CODED: Readonly<Record<string, string>> = { "°": "%%d", "±": "%%p", "×": "x", Ø: "%%c" };

/** A line of text as the oldest readers take it: plain letters and the format's own codes for signs. */
export const dxfText = (text: string): string =>
  plainText(text.replace(/[\r\n]+/g, " "))
    .replaceAll("%%", "% %")
    .replace(/[°±×Ø]/g, (sign) => CODED[sign])
    .slice(0, 250);

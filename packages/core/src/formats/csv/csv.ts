/** A cell of a table in CSV: in quotes where it holds what parts cells, and never taken for a formula. */
export function csvCell(value: string | number): string {
  const text = String(value);
  const safe = typeof value === "string" && /^\s*[=+\-@]|^[\t\r\n]/.test(text) ? `'${text}` : text;
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}

/** Rows of a table as CSV (RFC 4180). */
export const csvText = (rows: readonly (readonly (string | number)[])[]): string =>
  `${rows.map((r) => r.map(csvCell).join(",")).join("\r\n")}\r\n`;

import type { FindingLevel } from "@hillcrest/core";

const MARKS = {
  stop: { sign: "■", ink: "text-stop", word: "stops the part" },
  warn: { sign: "◆", ink: "text-warn", word: "warning" },
  note: { sign: "●", ink: "text-note", word: "note" },
} as const;

/** Sign and colour together, so that neither carries the meaning alone. */
export function FindingMark({ level }: { level: FindingLevel }) {
  const { sign, ink, word } = MARKS[level];
  return (
    <span className={`${ink} text-[11px]`} role="img" aria-label={word} title={word}>
      {sign}
    </span>
  );
}

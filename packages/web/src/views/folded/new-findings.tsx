import { aboutOf, type Finding } from "@hillcrest/core";
import { useCallback, useRef, useState } from "react";
import { findingsOf, openBuild } from "../../state/build-slice.ts";
import { findingsAsItIs } from "../../state/checking.ts";
import { useApp } from "../../state/store.ts";
import { FindingMark } from "../../ui/finding-mark.tsx";

/** What a finding is about and how grave, whatever its numbers: by this it is the same one while a value moves. */
const sameOne = (f: Finding): string => `${f.level} ${f.rule} ${aboutOf(f)}`;

/** Findings by what they are about. */
const findingNames = (findings: readonly Finding[]): ReadonlySet<string> => new Set(findings.map(sameOne));

/** What is found in the part before a drag or a field begins, as soon as it is known; `begin` asks for it. */
export function useFoundBefore(): readonly [known: ReadonlySet<string> | undefined, begin: () => void] {
  const [known, setKnown] = useState<ReadonlySet<string>>();
  const times = useRef(0);
  const begin = useCallback(() => {
    times.current++;
    const mine = times.current;
    setKnown(undefined);
    findingsAsItIs((found) => mine === times.current && setKnown(findingNames(found)));
  }, []);
  return [known, begin];
}

interface NewFindingsProps {
  /** What there was before; nothing is said until it is known. */
  readonly known?: ReadonlySet<string>;
  /** Not those of this step, which says them itself. */
  readonly but?: string;
  readonly className?: string;
}

/** What has come up since a drag or a field began: said at once, before it is let go. */
export function NewFindings({ known, but, className = "" }: NewFindingsProps) {
  const all = useApp((s) => findingsOf(openBuild(s)));
  if (!known) return null;
  const fresh = all.filter(
    (f) => !f.accepted && !known.has(sameOne(f)) && (but === undefined || f.step !== but),
  );
  if (fresh.length === 0) return null;
  const [first, ...rest] = fresh;
  return (
    <span
      data-new-finding
      className={`block w-64 rounded border border-hairline bg-panel px-2 py-1 text-left text-[12px] leading-snug shadow-card ${className}`}
    >
      <FindingMark level={first.level} /> {first.message}
      {rest.length > 0 && <span className="text-quiet"> And {rest.length} more.</span>}
    </span>
  );
}

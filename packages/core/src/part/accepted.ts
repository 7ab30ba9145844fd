import type { Finding } from "../steps/finding.ts";

/** A finding that somebody has accepted: it blocks nothing as long as it says the same. */
export interface AcceptedFinding {
  readonly key: string;
  readonly rule: string;
  /** What it is about: its pieces, step and field by name. */
  readonly about: string;
  readonly reason: string;
  /** Who accepted it. */
  readonly by: string;
  /** What it measured then, where it measures anything, and by how much that may change. */
  readonly found?: number;
  readonly within?: number;
}

export const MOST_ACCEPTED = 1000;
/** How much what a finding measures may change before it comes back: mm, kN or kg, as its rule says. */
export const ACCEPTED_WITHIN = 0.1;

// What cannot be built, and what is no part, is no matter of agreement.
const NEVER = /^(step|stock|variable|blank)$|-gone$/;

/** Whether a finding can be accepted. */
export const canBeAccepted = ({ rule }: Finding): boolean => !NEVER.test(rule);

const measureOf = ({ found, collision }: Finding): number | undefined => found ?? collision?.depth;

/** What a finding is about, as a text by which it is found again. */
export const aboutOf = ({ pieces = [], step = "", field = "" }: Finding): string =>
  [...pieces.map((p) => `${p.kind}:${p.id}`).sort(), `step:${step}`, `field:${field}`].join(" ");

/** How a part keeps that a finding is accepted. */
export function acceptanceOf(finding: Finding, key: string, reason: string, by: string): AcceptedFinding {
  const found = measureOf(finding);
  return {
    key,
    rule: finding.rule,
    about: aboutOf(finding),
    reason,
    by,
    ...(found === undefined ? {} : { found, within: ACCEPTED_WITHIN }),
  };
}

/** Whether an acceptance is of this finding as it is now. */
export function accepts(a: AcceptedFinding, finding: Finding): boolean {
  if (a.rule !== finding.rule || a.about !== aboutOf(finding)) return false;
  const now = measureOf(finding);
  if (a.found === undefined || now === undefined) return a.found === now;
  return Math.abs(now - a.found) <= (a.within ?? ACCEPTED_WITHIN) + 1e-9;
}

/** Findings with those marked that the part has accepted. */
export function markAccepted(
  findings: readonly Finding[],
  accepted: readonly AcceptedFinding[] = [],
): readonly Finding[] {
  if (accepted.length === 0) return findings;
  return findings.map((f) => {
    const by = canBeAccepted(f) ? accepted.find((a) => accepts(a, f)) : undefined;
    return by ? { ...f, accepted: { key: by.key, reason: by.reason, by: by.by } } : f;
  });
}

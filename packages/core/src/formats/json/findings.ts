import type { PartBuild } from "../../part/build.ts";
import { carriersOf, platesOf } from "../../sheet/sheet.ts";
import type { Finding, FindingLevel } from "../../steps/finding.ts";

/** A finding as other programs read it. */
export interface ReportedFinding {
  readonly rule: string;
  readonly level: FindingLevel;
  /** Plates by letter (`"A"`) and bends by number (`"#3"`), in the order in which they are said. */
  readonly pieces: readonly string[];
  readonly message: string;
  /** The step it belongs to and the field of it (or of the stock) to look at; null where there is none. */
  readonly step: string | null;
  readonly field: string | null;
  /** What the rule measured and what it wants (mm, kN or kg, by the rule); null where it measures nothing. */
  readonly found: number | null;
  readonly wanted: number | null;
  /** Why it is accepted as it is, and by whom; null where it is not. */
  readonly accepted: { readonly reason: string; readonly by: string } | null;
  /** Of two pieces that collide: the least shift that parts them, mm, and the metal that they share, mm³; null of very many. */
  readonly depth?: number | null;
  readonly volume?: number | null;
  /** The share of folding, 0 to 1, at which it first begins, all bends together, and whether it is there fully folded. */
  readonly at?: number;
  readonly full?: boolean;
}

/** Plates by letter and bends by number; one that is no longer there is left out. */
export function pieceNames(build: PartBuild, { pieces = [] }: Pick<Finding, "pieces">): string[] {
  const letters = new Map(platesOf(build.sheet).map((p) => [p.id, p.letter]));
  const names = new Map<string, string>([
    ...platesOf(build.sheet).map((p) => [`plate:${p.id}`, p.letter] as const),
    // What is rolled has no number: it is called by the plates that it joins.
    ...carriersOf(build.sheet).map(
      (c) => [`${c.kind}:${c.id}`, `${letters.get(c.parent)}–${letters.get(c.child)}`] as const,
    ),
    ...build.bends.map((b) => [`bend:${b.id}`, `#${b.number}`] as const),
  ]);
  return pieces.flatMap((p) => names.get(`${p.kind}:${p.id}`) ?? []);
}

/** What the checks found on a part, in the order of the findings list: the gravest first. */
export const reportFindings = (build: PartBuild): ReportedFinding[] =>
  build.findings.map((f) => ({
    rule: f.rule,
    level: f.level,
    pieces: pieceNames(build, f),
    message: f.message,
    step: f.step ?? null,
    field: f.field ?? null,
    found: f.found ?? null,
    wanted: f.wanted ?? null,
    accepted: f.accepted ? { reason: f.accepted.reason, by: f.accepted.by } : null,
    ...(f.collision
      ? {
          depth: f.collision.depth ?? null,
          volume: f.collision.volume ?? null,
          at: f.collision.at,
          full: f.collision.full,
        }
      : {}),
  }));

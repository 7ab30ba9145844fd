import type { PartBuild } from "../part/build.ts";
import type { Finding, FindingPiece } from "../steps/finding.ts";
import type { ShopRules } from "../stock/shop-rules.ts";

/** One question about whether a part can be made. Gives a finding for each place where the answer is no. */
export type CheckRule = (build: PartBuild, rules: ShopRules) => readonly Finding[];

/** The same thing said of one bend, and of several. */
export interface BendRemark extends Omit<Finding, "message"> {
  readonly bend: number;
  /** What follows "Bend 3", and what follows "Bends 3 and 5". */
  readonly one: string;
  readonly many: string;
}

const MOST_NAMED = 12;

/** "3", "3 and 5", "3, 5 and 8", "1, 2, … 900 and 901": many are named by the first and the last. */
export function named(numbers: readonly number[]): string {
  if (numbers.length === 1) return String(numbers[0]);
  const list =
    numbers.length <= MOST_NAMED
      ? numbers.map(String)
      : [
          ...numbers.slice(0, MOST_NAMED - 1).map(String),
          `… ${numbers[numbers.length - 2]}`,
          String(numbers.at(-1)),
        ];
  return `${list.slice(0, -1).join(", ")} and ${list[list.length - 1]}`;
}

/** Each piece once: a bend may be said of twice, as for its two ends. */
const onceEach = (pieces: readonly FindingPiece[]): FindingPiece[] => [
  ...new Map(pieces.map((p) => [`${p.kind}:${p.id}`, p])).values(),
];

/** What says the same together, in the order in which each is first said. */
function inGroups<T>(said: readonly T[], what: (one: T) => readonly unknown[]): T[][] {
  const groups = new Map<string, T[]>();
  for (const one of said) {
    const key = JSON.stringify(what(one));
    const group = groups.get(key);
    if (group) group.push(one);
    else groups.set(key, [one]);
  }
  return [...groups.values()];
}

/** What is said alike of many bends becomes one sentence that names them, at the first one's step. */
export function joinRemarks(remarks: readonly BendRemark[]): Finding[] {
  return inGroups(remarks, (r) => [r.level, r.rule, r.one]).map((group) => {
    const { bend: _bend, one, many, ...finding } = group[0];
    const numbers = [...new Set(group.map((r) => r.bend))].sort((a, b) => a - b);
    const message = numbers.length === 1 ? `Bend ${numbers[0]}${one}` : `Bends ${named(numbers)}${many}`;
    const pieces = group.flatMap((r) => r.pieces ?? []);
    const remedies = group.flatMap((r) => r.mend?.remedies ?? []);
    return {
      ...finding,
      message,
      ...(pieces.length > 0 ? { pieces: onceEach(pieces) } : {}),
      ...(finding.mend ? { mend: { ...finding.mend, remedies } } : {}),
    };
  });
}

/** Of more findings of one rule the rest are told in one sentence. */
const MOST_OF_A_RULE = 60;

/**
 * Findings that say the same of the same step become one, which says how many they are: five thousand holes of a
 * pattern are too small once. Their pieces are united, and one action mends them all.
 */
export function joinAlike(findings: readonly Finding[]): Finding[] {
  const groups = inGroups(findings, (f) => [f.rule, f.step, f.message]);
  const told = new Map<string, number>();
  const left = new Map<string, { first: Finding; count: number }>();
  const joined = groups.flatMap((group): Finding[] => {
    const [first] = group;
    const count = told.get(first.rule) ?? 0;
    told.set(first.rule, count + 1);
    if (count >= MOST_OF_A_RULE) {
      const rest = left.get(first.rule) ?? { first, count: 0 };
      left.set(first.rule, { ...rest, count: rest.count + group.length });
      return [];
    }
    return [group.length === 1 ? first : asOne(group)];
  });
  const rest = [...left.values()].map(
    ({ first, count }): Finding => ({
      level: first.level,
      rule: first.rule,
      message: `The same rule finds ${count} more. Mend those above, and these will be told.`,
    }),
  );
  return [...joined, ...rest];
}

function asOne(group: readonly Finding[]): Finding {
  const [first] = group;
  const pieces = onceEach(group.flatMap((f) => f.pieces ?? []));
  const remedies = group.flatMap((f) => f.mend?.remedies ?? []);
  return {
    ...first,
    message: `${first.message} The same of ${group.length - 1} more.`,
    ...(pieces.length > 0 ? { pieces } : {}),
    ...(first.mend ? { mend: { ...first.mend, remedies } } : {}),
  };
}

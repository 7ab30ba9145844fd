import { CollisionSearch } from "../collision/search.ts";
import type { SayProgress } from "../jobs/job.ts";
import { markAccepted } from "../part/accepted.ts";
import type { PartBuild } from "../part/build.ts";
import { createPartBuilder, sortFindings } from "../part/build.ts";
import type { PartDocument } from "../part/document.ts";
import { unknownFindings } from "../part/idle-values.ts";
import { cardOf } from "../part/stock.ts";
import { type Finding, stops } from "../steps/finding.ts";
import { rulesOf } from "../stock/shop-rule-set.ts";
import type { ShopRules } from "../stock/shop-rules.ts";
import { sayLengths } from "../units/spoken-length.ts";
import { CHECKS } from "./checks.ts";
import { collisionFindings, gapFindings, loneFindings, stuckFindings } from "./collision.ts";
import { noMetal } from "./no-metal.ts";
import { joinAlike, named } from "./rule.ts";

/**
 * Builds a part and asks every check about it; the findings of both stand together. Without other rules it is held
 * to those that its card carries.
 */
export const examinePart = (document: PartDocument, rules?: ShopRules): PartBuild =>
  createExaminer(rules)(document);

/** What all rules say of a build, each finding as grave as the shop takes it. */
export function askRules(build: PartBuild, rules: ShopRules): Finding[] {
  if (!build.sheet) return [];
  const asked = CHECKS.filter(({ tells }) => tells.some((rule) => isAsked(rules, rule)));
  return leveled(joinAlike(asked.flatMap(({ ask }) => ask(build, rules))), rules);
}

const isAsked = ({ levels }: ShopRules, rule: string): boolean => levels[rule] !== "off";

/**
 * The shop's rule that a finding is of: what meets on the way only is told as a collision. What is said of how far was
 * looked is of none.
 */
function ruleOf({ rule, collision }: Finding): string | undefined {
  if (rule !== "collision") return rule;
  return collision && (collision.full ? "collision" : "meets-on-the-way");
}

/** Findings as grave as the shop takes them, without those of rules that it does not ask. */
const leveled = (findings: readonly Finding[], { levels }: ShopRules): Finding[] =>
  findings.flatMap((f): Finding[] => {
    const rule = ruleOf(f);
    const level = (rule === undefined ? undefined : levels[rule]) ?? f.level;
    return level === "off" ? [] : [{ ...f, level }];
  });

/** A finding with its lengths said in the units of the part. */
const inUnits = (f: Finding, units: PartDocument["units"]): Finding => ({
  ...f,
  message: sayLengths(f.message, units),
  ...(f.mend ? { mend: { ...f.mend, title: sayLengths(f.mend.title, units) } } : {}),
});

/** An examiner that keeps each step's result, so that a change builds only from that step on. */
export function createExaminer(rules?: ShopRules): (document: PartDocument, say?: SayProgress) => PartBuild {
  const builder = createPartBuilder();
  return (document, say = () => {}) => {
    const build = builder(document, say);
    say(0.75, "Checks");
    const said = askRules(build, rules ?? rulesOf(cardOf(document.stock)?.rules)).map((f) =>
      inUnits(f, document.units),
    );
    const all = markAccepted(
      [...build.findings, ...said, ...noMetal(build), ...unknownFindings(document)],
      document.accepted,
    );
    return { ...build, findings: sortFindings(all, document.steps) };
  };
}

/**
 * A check of whether pieces stand in one another, which takes longer than the others: asked once the shape is there.
 * What has not changed since the part it was asked of before is not looked at again.
 */
export function createCollisionCheck(
  rules?: ShopRules,
): (document: PartDocument, build: PartBuild) => readonly Finding[] {
  const search = new CollisionSearch();
  return ({ units, accepted, stock }, build) => {
    const { sheet } = build;
    if (!sheet) return [];
    const held = new Set(build.heldBySteps);
    const by = rules ?? rulesOf(cardOf(stock)?.rules);
    const { leastGap, sheetReach } = by.values;
    const asked = (rule: string) => isAsked(by, rule);
    const found = [
      ...(asked("collision") || asked("meets-on-the-way")
        ? collisionFindings(build, search.search(sheet, held))
        : []),
      ...(asked("turns-alone") ? stuckFindings(sheet, search.turnsAlone(sheet, held)) : []),
      ...(asked("tight-gap") ? gapFindings(sheet, search.tightGaps(sheet, leastGap, held), leastGap) : []),
      ...(asked("lone-sheet")
        ? loneFindings(sheet, search.loneSheets(sheet, sheetReach, held), sheetReach)
        : []),
    ];
    return markAccepted(
      leveled(found, by).map((f) => inUnits(f, units)),
      accepted,
    );
  };
}

/** A build of which all findings are known, also those of the search for collisions: only such a part leaves as a file. */
export interface CheckedBuild extends PartBuild {
  /** What the search has found; they are among the findings. */
  readonly collisions: readonly Finding[];
}

/** A build with what the search for collisions found in it among its findings. */
export const withCollisions = <B extends PartBuild>(
  build: B,
  collisions: readonly Finding[],
  document: PartDocument,
): B & CheckedBuild => ({
  ...build,
  collisions,
  ...(collisions.length === 0
    ? {}
    : { findings: sortFindings([...build.findings, ...collisions], document.steps) }),
});

/**
 * Builds a part and asks every check about it, collisions too.
 *
 * @param known what an earlier search found in this very document by these rules: it is not searched again
 */
export function examineFully(
  document: PartDocument,
  rules?: ShopRules,
  known?: readonly Finding[],
): CheckedBuild {
  const build = examinePart(document, rules);
  return withCollisions(build, known ?? createCollisionCheck(rules)(document, build), document);
}

/** Stands for the findings of a search that did not end: nobody knows whether the part can be made. */
export const notSearched = (why: string): Finding => ({
  level: "stop",
  rule: "not-searched",
  message: `Collisions could not be looked for: ${why}`,
});

/** What was not looked at, for it is not built: steps by number; nothing where all of them are. */
export function notChecked({ steps }: PartBuild): string | undefined {
  const numbers = steps.flatMap(({ state }, i) => (state === "built" ? [] : [i + 1]));
  if (numbers.length === 0) return undefined;
  return numbers.length === 1
    ? `Not checked, for it is not built: what step ${numbers[0]} makes.`
    : `Not checked, for they are not built: what steps ${named(numbers)} make.`;
}

/** Whether something stops the part from being made. */
export const isStopped = (build: PartBuild): boolean => build.findings.some(stops);

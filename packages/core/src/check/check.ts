import { CollisionSearch } from "../collision/search.ts";
import type { PartBuild } from "../part/build.ts";
import { createPartBuilder, sortFindings } from "../part/build.ts";
import type { PartDocument } from "../part/document.ts";
import type { Finding } from "../steps/finding.ts";
import { sayLengths } from "../units/spoken-length.ts";
import { cardRadiusRule, forceRule, leastRadiusRule, outsideChartRule } from "./chart.ts";
import { collisionFindings } from "./collision.ts";
import { overlapRule } from "./overlap.ts";
import { reliefRule } from "./relief.ts";
import type { CheckRule } from "./rule.ts";
import { seamRule } from "./seam.ts";

/** Every check there is. A new one is a file beside this and a name here. */
export const CHECK_RULES: readonly CheckRule[] = [
  overlapRule,
  reliefRule,
  seamRule,
  outsideChartRule,
  cardRadiusRule,
  leastRadiusRule,
  forceRule,
];

/** Builds a part and asks every check about it; the findings of both stand together. */
export const examinePart = (document: PartDocument): PartBuild => createExaminer()(document);

/** An examiner that keeps each step's result, so that a change builds only from that step on. */
export function createExaminer(): (document: PartDocument) => PartBuild {
  const builder = createPartBuilder();
  return (document) => {
    const build = builder(document);
    const found = build.sheet ? CHECK_RULES.flatMap((rule) => rule(build)) : [];
    const said = found.map((f) => ({ ...f, message: sayLengths(f.message, document.units) }));
    return { ...build, findings: sortFindings([...build.findings, ...said], document.steps) };
  };
}

/**
 * A check of whether pieces stand in one another, which takes longer than the others: asked once the shape is there.
 * What has not changed since the part it was asked of before is not looked at again.
 */
export function createCollisionCheck(): (document: PartDocument, build: PartBuild) => Finding[] {
  const search = new CollisionSearch();
  return ({ units }, { sheet, heldBySteps }) => {
    if (!sheet) return [];
    const searched = search.search(sheet, new Set(heldBySteps));
    return collisionFindings(sheet, searched).map((f) => ({ ...f, message: sayLengths(f.message, units) }));
  };
}

/** A build with further findings among its own. */
export const withFindings = (
  build: PartBuild,
  more: readonly Finding[],
  document: PartDocument,
): PartBuild =>
  more.length === 0
    ? build
    : { ...build, findings: sortFindings([...build.findings, ...more], document.steps) };

/** Builds a part and asks every check about it, collisions too. */
export function examineFully(document: PartDocument): PartBuild {
  const build = examinePart(document);
  return withFindings(build, createCollisionCheck()(document, build), document);
}

/** Whether something stops the part from being made. */
export const isStopped = (build: PartBuild): boolean => build.findings.some((f) => f.level === "stop");

import type { SourceLink, WhyLine } from "../../bend/why-line.ts";
import { shortLength, type Units } from "../../units/display.ts";
import { formatShort } from "../../units/quantity.ts";
import type { PartBuild } from "../build.ts";
import type { PartDocument, StepDocument } from "../document.ts";
import { cardOf } from "../stock.ts";

/** The explanation behind a number: formula, inputs with their sources, result. */
export interface Why {
  readonly title: string;
  readonly result: string;
  readonly lines: readonly WhyLine[];
}

export const n = (v: number) => formatShort(v, 4);

export interface Asked {
  readonly document: PartDocument;
  readonly build: PartBuild;
  readonly units: Units;
  /** A length in the part's units, without the unit. */
  readonly l: (mm: number) => string;
}

export function asked(document: PartDocument, build: PartBuild): Asked {
  const units = document.units ?? "mm";
  return { document, build, units, l: (mm) => shortLength(mm, units, 4) };
}

export const stepLink = (id: string): SourceLink => ({ to: "step", id });
export const stepName = ({ document }: Asked, id: string) =>
  `step ${document.steps.findIndex((s) => s.id === id) + 1}`;

/** The stock, or the card that it is taken from. */
export function stockSource({ document }: Asked): Pick<WhyLine, "source" | "link"> {
  const card = cardOf(document.stock);
  return card
    ? { source: `stock card ${card.name}, revision ${card.revision}`, link: { to: "card", id: card.id } }
    : { source: "stock", link: { to: "stock" } };
}

export function materialSource({ document }: Asked): Pick<WhyLine, "source" | "link"> {
  const card = cardOf(document.stock);
  return card
    ? { source: `material ${card.material.name}`, link: { to: "material", id: card.material.id } }
    : { source: "stock", link: { to: "stock" } };
}

export const stepSource = (a: Asked, step: StepDocument): Pick<WhyLine, "source" | "link"> => ({
  source: stepName(a, step.id),
  link: stepLink(step.id),
});

export const thicknessLine = (a: Asked): WhyLine => ({
  text: `t = ${a.l(a.build.stock?.thickness ?? 0)}`,
  ...stockSource(a),
});

import { type SourceLink, sayLengths, type Why, type WhyLine } from "@hillcrest/core";
import type { ReactNode } from "react";
import { Link } from "react-router";
import type { PartSources } from "../state/sources.ts";
import { Popover } from "./popover.tsx";

/** The address of a source that has one. */
export function sourceAddress(link: SourceLink): string | undefined {
  switch (link.to) {
    case "card":
      return `/stock/cards/${link.id}`;
    case "material":
      return `/stock/materials/${link.id}`;
    case "die":
      return `/stock/dies/${link.id}`;
    case "test bends":
      return `/stock/testBends/${link.id}`;
    case "chart":
      return `/stock/charts/${link.id}${link.row === undefined ? "" : `?row=${link.row}`}`;
    case "step":
    case "stock":
      return undefined;
  }
}

/** The chain behind a number, each input leading to where it comes from. */
export function WhyCard({ why, ...sources }: { why: Why } & PartSources) {
  return (
    <div data-why className="max-w-[520px] min-w-[270px] border-l-[3px] border-moss pl-3">
      <p className="mb-1.5">
        <b>Why {why.result}?</b> <span className="text-quiet">{why.title}</span>
      </p>
      <WhyLines lines={why.lines} {...sources} />
    </div>
  );
}

export function WhyLines({ lines, ...sources }: { lines: readonly WhyLine[] } & PartSources) {
  return lines.map((l, i) => (
    <p key={i} className="leading-[1.7]">
      <span className="num">{sayLengths(l.text)}</span>
      {l.source && <span className="text-quiet"> · </span>}
      {l.source && <Source line={l} {...sources} />}
    </p>
  ));
}

function Source({ line, onStep, onStock }: { line: WhyLine } & PartSources) {
  const { link, source } = line;
  const look = "text-moss hover:underline";
  const address = link && sourceAddress(link);
  if (address)
    return (
      <Link className={look} to={address}>
        {source}
      </Link>
    );
  const open = link?.to === "step" ? onStep && (() => onStep(link.id)) : link ? onStock : undefined;
  if (!open) return <span className="text-quiet">{source}</span>;
  return (
    <button type="button" className={look} onClick={open}>
      {source}
    </button>
  );
}

interface WhyNumberProps extends PartSources {
  readonly text: ReactNode;
  readonly label: string;
  readonly why: () => Why;
  readonly className?: string;
}

/** A computed number that can be asked why: formula, inputs and where they come from. */
export function WhyNumber({ text, label, why, className = "", ...sources }: WhyNumberProps) {
  return (
    <Popover
      label={`Why ${label}?`}
      trigger={
        <button
          type="button"
          className={`num -my-[5px] rounded-sm py-[5px] decoration-dotted underline-offset-2 hover:text-moss hover:underline ${className}`}
          title="Why?"
          aria-label={`${typeof text === "string" ? text : ""}, ${label}: why?`}
        >
          {text}
        </button>
      }
    >
      <LazyWhy why={why} {...sources} />
    </Popover>
  );
}

/** The chain is put together only when it is asked for. */
function LazyWhy({ why, ...sources }: { why: () => Why } & PartSources) {
  return <WhyCard why={why()} {...sources} />;
}

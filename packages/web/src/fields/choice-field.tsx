import type { ChoiceField as Spec } from "@hillcrest/core";
import { type ReactNode, useState } from "react";
import { InlineButton } from "../ui/inline-button.tsx";
import { Unfolding } from "../ui/popover.tsx";

interface ChoiceFieldProps {
  readonly spec: Spec;
  readonly value: string;
  readonly onChange: (value: string) => void;
  readonly wrong?: boolean;
  /** A section picture and what would follow, for choices that are made on pictures. */
  readonly picture?: (value: string) => ReactNode;
  readonly note?: (value: string) => string;
}

/** With more options than these they are told by their words alone: each picture is reckoned when the list opens. */
const MOST_PICTURES = 120;

/** A choice in a sentence. Two values swap at a click; more open as a row to choose from. */
export function ChoiceField({ spec, value, onChange, wrong, picture: drawn, note }: ChoiceFieldProps) {
  const picture = spec.options.length > MOST_PICTURES ? undefined : drawn;
  const [open, setOpen] = useState(false);
  const label = spec.options.find((o) => o.value === value)?.label ?? value;
  const look = `border-b border-moss/45 font-semibold text-moss hover:bg-moss-soft ${wrong ? "border-stop text-stop" : ""}`;
  if (spec.options.length === 2) {
    const other = spec.options.find((o) => o.value !== value)!;
    return (
      <InlineButton
        data-field={spec.key}
        className={look}
        title={`${spec.label}: make it ${other.label}`}
        onClick={() => onChange(other.value)}
      >
        {label}
      </InlineButton>
    );
  }
  return (
    <Unfolding
      trigger={
        <InlineButton data-field={spec.key} className={look} title={spec.label}>
          {label}
        </InlineButton>
      }
      label={spec.label}
      open={open}
      onOpenChange={setOpen}
      align="end"
      sideOffset={5}
      className="z-40 rounded-lg border border-hairline bg-panel p-2 shadow-card"
      onKeyDown={moveFocus}
    >
      <p className="px-1 pb-1.5 text-[12px] font-semibold text-quiet">{spec.label}</p>
      <div
        className={`scroll-quiet max-h-[60vh] overflow-auto ${picture ? `flex flex-wrap gap-1.5 p-px ${spec.options.length > 8 ? "max-w-[500px]" : "max-w-[92vw]"}` : "flex flex-col"}`}
        role="listbox"
        aria-label={spec.label}
      >
        {spec.options.map((o) => (
          <Option
            key={o.value}
            option={o}
            chosen={o.value === value}
            picture={picture}
            note={note}
            onChoose={() => {
              onChange(o.value);
              setOpen(false);
            }}
          />
        ))}
      </div>
    </Unfolding>
  );
}

interface OptionProps extends Pick<ChoiceFieldProps, "picture" | "note"> {
  readonly option: Spec["options"][number];
  readonly chosen: boolean;
  readonly onChoose: () => void;
}

function Option({ option: o, chosen, picture, note, onChoose }: OptionProps) {
  const frame = chosen ? "border-moss ring-1 ring-moss" : "border-hairline hover:border-moss";
  return (
    <button
      type="button"
      role="option"
      aria-selected={chosen}
      data-option={o.value}
      className={
        picture
          ? `flex w-[92px] flex-col items-center gap-1 rounded-md border bg-raised p-1.5 ${frame}`
          : `rounded px-2 py-1 text-left hover:bg-moss-soft ${chosen ? "font-bold text-moss" : ""}`
      }
      onClick={onChoose}
    >
      {picture?.(o.value)}
      <span className={picture ? "min-h-[26px] text-center text-[11px] leading-[13px]" : ""}>{o.label}</span>
      {note && (
        <span className="num text-center text-[10.5px] leading-[13px] text-quiet">{note(o.value)}</span>
      )}
    </button>
  );
}

/** Arrow keys go through the options. */
function moveFocus(e: React.KeyboardEvent<HTMLElement>): void {
  const way = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[e.key];
  if (!way) return;
  e.preventDefault();
  e.stopPropagation();
  const all = [...e.currentTarget.querySelectorAll<HTMLElement>("[role=option]")];
  const at = all.indexOf(document.activeElement as HTMLElement);
  all[(at + way + all.length) % all.length]?.focus();
}

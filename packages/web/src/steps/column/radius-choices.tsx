import { type BuiltStock, formatShort, naturalRadius, sayLength } from "@hillcrest/core";
import { useState } from "react";
import { useUnits } from "../../state/units.ts";
import { InlineButton } from "../../ui/inline-button.tsx";
import { Popover } from "../../ui/popover.tsx";

interface RadiusChoicesProps {
  readonly stock?: BuiltStock;
  readonly value?: number;
  readonly onChoose: (text: string) => void;
}

/** The inside radii that the stock card allows, and what its dies make by themselves. */
export function RadiusChoices({ stock, value, onChoose }: RadiusChoicesProps) {
  const [open, setOpen] = useState(false);
  const units = useUnits();
  const radii = stock?.radii ?? [];
  const dies = stock?.dies ?? [];
  if (!stock || radii.length + dies.length === 0) return null;
  const row = "flex w-full justify-between gap-6 rounded px-1.5 py-0.5 text-left hover:bg-moss-soft";
  const choose = (text: string) => {
    onChoose(text);
    setOpen(false);
  };
  return (
    <Popover
      label="Inside radii"
      open={open}
      onOpenChange={setOpen}
      trigger={
        <InlineButton
          className="ml-1 inline-block min-w-6 text-center text-[11px] leading-6 text-moss"
          title="Radii of the stock card and its dies"
          data-radii
        >
          ▾
        </InlineButton>
      }
    >
      <p className="px-1.5 text-[12px] font-semibold text-quiet">The card allows</p>
      <button type="button" className={row} onClick={() => choose("")}>
        <span>as the stock says</span>
        <span className="num text-quiet">{sayLength(stock.radius, units)}</span>
      </button>
      {radii.map((r) => (
        <button
          key={r}
          type="button"
          data-radius={r}
          aria-current={r === value ? "true" : undefined}
          className={`${row} ${r === value ? "font-bold" : ""}`}
          onClick={() => choose(formatShort(r, 6))}
        >
          <span className="num">{sayLength(r, units)}</span>
        </button>
      ))}
      {dies.length > 0 && (
        <p className="mt-1.5 px-1.5 text-[12px] font-semibold text-quiet">Its dies make by themselves</p>
      )}
      {dies.map((d) => (
        <button
          key={d.id}
          type="button"
          data-die={d.id}
          className={row}
          onClick={() => choose(`V(${formatShort(d.v, 6)})`)}
        >
          <span>{d.name}</span>
          <span className="num text-quiet">{sayLength(naturalRadius(d.v, stock.radiusOverV), units)}</span>
        </button>
      ))}
    </Popover>
  );
}

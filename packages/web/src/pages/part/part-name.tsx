import { LONGEST_NAME } from "@hillcrest/core";
import { useState } from "react";
import { flushSync } from "react-dom";
import { setPartValues } from "../../state/edits.ts";
import { openPart } from "../../state/part-slice.ts";
import { useApp } from "../../state/store.ts";
import { wholeValue } from "../../ui/whole-value.ts";

/** The name, edited in place. An empty one is not taken. */
export function PartName() {
  const name = useApp((s) => openPart(s).document!.name);
  const [draft, setDraft] = useState<string>();
  const keep = () => {
    const next = draft?.trim();
    if (next && next !== name) setPartValues({ name: next });
    setDraft(undefined);
  };
  return (
    <input
      aria-label="Part name"
      title={name}
      value={draft ?? name}
      maxLength={LONGEST_NAME}
      className="field-sizing-content max-w-[300px] min-w-16 shrink truncate rounded bg-transparent px-1 text-[16px] font-bold hover:bg-moss-soft focus:bg-raised"
      {...wholeValue}
      onChange={(e) => setDraft(e.currentTarget.value)}
      onBlur={keep}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === "Enter") e.currentTarget.blur();
        if (e.key === "Escape") {
          // Leaving the field keeps what stands in it: first it must be the old name again.
          flushSync(() => setDraft(undefined));
          e.currentTarget.blur();
        }
      }}
    />
  );
}

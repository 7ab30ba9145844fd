import type { ReactNode } from "react";

/** The head of one stage of an editor that is gone through from first to last. */
export function StepTitle({ number, children }: { number: number; children: ReactNode }) {
  return (
    <h3 className="mb-1.5 flex items-baseline gap-2 font-bold">
      <span className="num grid size-5 place-items-center rounded-full border border-hairline text-[11px] text-quiet">
        {number}
      </span>
      {children}
    </h3>
  );
}

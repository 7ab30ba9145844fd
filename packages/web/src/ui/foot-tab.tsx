import type { ReactNode } from "react";

interface FootTabProps {
  readonly name: string;
  readonly open: boolean;
  readonly onClick: () => void;
  readonly children: ReactNode;
}

/** What opens one of the lists at the foot of a page, and closes it again. */
export const FootTab = ({ name, open, onClick, children }: FootTabProps) => (
  <button
    type="button"
    aria-expanded={open}
    data-drawer={name}
    className={`h-full border-b-2 px-1 whitespace-nowrap ${open ? "border-moss font-bold" : "border-transparent text-quiet hover:text-ink"}`}
    onClick={onClick}
  >
    {children}
  </button>
);

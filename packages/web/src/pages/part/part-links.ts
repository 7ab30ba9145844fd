import { useOutletContext } from "react-router";

/** How the head of one page of a part leads to another: what it is called, and what is said of it. */
export interface PartLink {
  readonly path: string;
  readonly label: string;
  readonly about: string;
}

/** The other pages of the open part, on one of them. */
export const usePartLinks = (): readonly PartLink[] => useOutletContext<readonly PartLink[]>();

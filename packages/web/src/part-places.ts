import type { ComponentType } from "react";
import type { PartLink } from "./pages/part/part-links.ts";

/** A page that the open part is worked on. */
export interface PartPlace {
  /** Where it stands behind the address of its part; the Bench at that itself. */
  readonly path: string;
  /** How the head of the Bench leads to it; none for the Bench itself. */
  readonly link?: Omit<PartLink, "path">;
  /** Reads it when it is first opened: the 3D views of the Bench are large, and the Shelf need not wait for them. */
  readonly read: () => Promise<{ readonly default: ComponentType }>;
}

/** Every page of a part, under one head. A new one is a folder of its own and a line here. */
export const PART_PLACES: readonly PartPlace[] = [
  { path: "", read: () => import("./pages/bench/bench-page.tsx").then((m) => ({ default: m.BenchPage })) },
  {
    path: "blank",
    link: { label: "Blank…", about: "The blank large: how it lies, its dimensions, its files" },
    read: () => import("./pages/blank/blank-page.tsx").then((m) => ({ default: m.BlankPage })),
  },
];

/** The page of a part that an address names; the Bench where it names none. */
export const placeOf = (pathname: string): PartPlace =>
  PART_PLACES.find(({ path }) => path !== "" && pathname.endsWith(`/${path}`)) ?? PART_PLACES[0];

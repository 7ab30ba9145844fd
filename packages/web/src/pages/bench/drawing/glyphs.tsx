import type { Relation } from "@hillcrest/core";
import type { ReactNode } from "react";

/** Small pictures of relations, in a square of 15 about its middle. */
export const RELATION_GLYPHS: Readonly<Record<Relation["kind"], ReactNode>> = {
  coincident: <circle r="2.4" fill="currentColor" stroke="none" />,
  level: <path d="M-4.5 0h9" />,
  upright: <path d="M0-4.5v9" />,
  parallel: <path d="M-3.5 4 .5-4M-.5 4 3.5-4" />,
  square: <path d="M-3.5-4v8h8M-3.5 1h3v3" />,
  inLine: <path d="M-5 2.5h4M1-2.5h4M-1 2.5 1-2.5" />,
  tangent: <path d="M-5 3.5h10M-3.8 3.2a4 4 0 0 1 7.6 0" />,
  concentric: (
    <>
      <circle r="4.4" />
      <circle r="1.6" />
    </>
  ),
  equal: <path d="M-4-1.8h8M-4 1.8h8" />,
  symmetric: <path d="M0-5v10M-2-3-5 0l3 3M2-3l3 3-3 3" />,
  middle: <path d="M-5 0h10M0-3.5v7M-5-2v4M5-2v4" />,
  on: (
    <>
      <path d="M-5 3 5-3" />
      <circle r="2" fill="currentColor" stroke="none" />
    </>
  ),
  fixed: <path d="M-4.5-1h9M0-4.5V-1M-3-1l-1.5 4M0-1l-1.5 4M3-1 1.5 3" />,
};

/** Pictures of the tools, in 20 by 20. */
export const TOOL_PICTURES: Readonly<Record<string, ReactNode>> = {
  line: <path d="M3 15 9 6l8 5" />,
  "lead-on": <path d="M3 16h5a7 7 0 0 0 7-7V4" />,
  arc: (
    <>
      <path d="M3 15A8 8 0 0 1 17 15" />
      <path d="M3 15h.01M17 15h.01M10 7.4h.01" strokeWidth="3.4" />
    </>
  ),
  "arc-about": (
    <>
      <path d="M4 16V6M4 16h11M4 6a10 10 0 0 1 10 10" strokeDasharray="0" />
      <path d="M4 16h.01" strokeWidth="3.4" />
    </>
  ),
  circle: <circle cx="10" cy="10" r="6.5" />,
  rectangle: (
    <>
      <path d="M4 5.5h12v9H4Z" />
      <path d="M4 14.5h.01M16 5.5h.01" strokeWidth="3.4" />
    </>
  ),
  "rectangle-about": (
    <>
      <path d="M4 5.5h12v9H4Z" />
      <path d="M10 10h.01" strokeWidth="3.4" />
    </>
  ),
  slot: <path d="M6.5 6.5h7a3.5 3.5 0 0 1 0 7h-7a3.5 3.5 0 0 1 0-7Z" />,
  polygon: <path d="m10 3.5 5.6 3.3v6.4L10 16.5l-5.6-3.3V6.8Z" />,
  point: <path d="M10 6v8M6 10h8" />,
  trim: (
    <>
      <path d="M3 10h4M13 10h4" />
      <path d="M7 4v12M13 4v12" strokeWidth="1" />
      <path d="M7 10h6" strokeDasharray="1.6 1.8" strokeWidth="1" />
    </>
  ),
  extend: (
    <>
      <path d="M3 10h6" />
      <path d="M9 10h5.5" strokeDasharray="2 2" />
      <path d="M15.5 4v12" strokeWidth="1" />
    </>
  ),
  split: (
    <>
      <path d="M3 10h5M12 10h5" />
      <path d="m8.5 14 3-8" strokeWidth="1" />
    </>
  ),
  round: (
    <>
      <path d="M4 16v-4a7 7 0 0 1 7-7h5" />
      <path d="M4 9V5h4" strokeWidth="1" strokeDasharray="1.6 1.8" />
    </>
  ),
  chamfer: (
    <>
      <path d="M4 16v-5l6-6h6" />
      <path d="M4 9V5h4" strokeWidth="1" strokeDasharray="1.6 1.8" />
    </>
  ),
  offset: (
    <>
      <path d="M4 16V4h12" />
      <path d="M8.5 16V8.5H16" strokeWidth="1" />
    </>
  ),
  mirror: (
    <>
      <path d="M10 3v14" strokeWidth="1" strokeDasharray="3 1.6" />
      <path d="M8 6 3.5 14H8M12 6l4.5 8H12" />
    </>
  ),
  move: <path d="M3 10h13M12.5 6.5 16 10l-3.5 3.5" />,
  copy: <path d="M4 4h8v8H4ZM8 12v4h8V8h-4" />,
  turn: <path d="M15.5 12A6 6 0 1 1 14 6.2M14 2.8v3.6h-3.6" />,
  row: (
    <>
      <circle cx="4.5" cy="10" r="2.2" />
      <circle cx="10" cy="10" r="2.2" strokeWidth="1" />
      <circle cx="15.5" cy="10" r="2.2" strokeWidth="1" />
    </>
  ),
  ring: (
    <>
      <circle cx="10" cy="4.5" r="2" />
      <circle cx="15" cy="13" r="2" strokeWidth="1" />
      <circle cx="5" cy="13" r="2" strokeWidth="1" />
    </>
  ),
};

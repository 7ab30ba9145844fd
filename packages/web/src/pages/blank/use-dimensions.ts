import {
  type BlankDimension,
  freshKey,
  type MeasureEnd,
  type PartBuild,
  type PartDocument,
} from "@hillcrest/core";
import { useEffect, useState } from "react";
import { blankSettings, setBlank } from "../../state/exporting.ts";
import { type Thunk, useApp, useSend } from "../../state/store.ts";
import { useUnits } from "../../state/units.ts";
import { measured, saidDimension } from "./blank-dimensions.tsx";
import type { BlankTool } from "./blank-tools.tsx";
import type { SheetDrawn } from "./sheet-geometry.ts";

const sameEnd = (a: MeasureEnd, b: MeasureEnd) => a.kind === b.kind && a.name === b.name;
/** A new dimension's line stands so far beside what it measures, as a share of the blank's size. */
const BESIDE = 0.05;

const putDimensions =
  (change: (list: readonly BlankDimension[]) => readonly BlankDimension[], mark?: string): Thunk =>
  (send, getState) => {
    const next = change(blankSettings(getState()).dimensions ?? []);
    send(setBlank({ dimensions: next.length > 0 ? next : undefined }, mark));
  };

const changeDimension = (next: BlankDimension, mark?: string): Thunk =>
  putDimensions((list) => list.map((d) => (d.key === next.key ? next : d)), mark);

/** Dimensions as they are made, picked, moved and taken away; and the other things that are picked on the blank. */
export function useDimensions(
  document: PartDocument,
  build: PartBuild,
  drawn: SheetDrawn,
  tool: BlankTool,
  setTool: (tool: BlankTool) => void,
) {
  const send = useSend();
  const [first, setFirst] = useState<MeasureEnd>();
  const [chosen, setChosen] = useState<string>();
  const [told, setTold] = useState<string>();
  useEffect(() => {
    setFirst(undefined);
    setTold(undefined);
    if (tool !== "look") setChosen(undefined);
  }, [tool]);
  const list = useApp((s) => blankSettings(s).dimensions) ?? [];
  const selected = list.find((d) => d.key === chosen);
  const add = (from: MeasureEnd, to: MeasureEnd | undefined) => {
    const next = newDimension(list, drawn, from, to);
    setFirst(undefined);
    if (!measured(next, build, drawn))
      return setTold("These two have nothing between them to measure. Click two others.");
    setTold(undefined);
    send(putDimensions((before) => [...before, next]));
    setTool("look");
    setChosen(next.key);
  };
  const pick = (end: MeasureEnd) => {
    if (tool === "edge") {
      send(setBlank({ turn: "edge", edge: end.name }));
      return setTool("look");
    }
    if (tool === "datum") {
      const found = measured({ from: end, along: "shortest" }, build, drawn);
      if (!found) return;
      const upright = Math.abs(found.way.y) > Math.abs(found.way.x);
      return send(setBlank({ datums: { ...document.blank?.datums, [upright ? "across" : "up"]: end } }));
    }
    if (!first) return setFirst(end);
    add(first, sameEnd(first, end) ? undefined : end);
  };
  const found = selected && measured(selected, build, drawn);
  const units = useUnits();
  return {
    first,
    told,
    pick,
    selected,
    said: found && saidDimension(found, units),
    select: (key: string | undefined) => setChosen(key),
    change: (next: BlankDimension) => send(changeDimension(next)),
    move: (key: string, beside: number, mark: string) => {
      const d = list.find((one) => one.key === key);
      if (d) send(changeDimension({ ...d, beside }, mark));
    },
    removeSelected: () => {
      if (selected) send(putDimensions((before) => before.filter((d) => d.key !== selected.key)));
      setChosen(undefined);
    },
  };
}

function newDimension(
  list: readonly BlankDimension[],
  { placed }: SheetDrawn,
  from: MeasureEnd,
  to: MeasureEnd | undefined,
): BlankDimension {
  const { width, height } = placed.blank;
  const beside = Math.round(Math.max(6, Math.min(width, height) * BESIDE) * 10) / 10;
  return { key: freshKey(list), from, ...(to ? { to } : {}), along: "shortest", beside };
}

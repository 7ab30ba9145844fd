import type { Bounds } from "@hillcrest/core";
import { type PointerEvent, type RefObject, useEffect, useMemo, useRef, useState } from "react";
import { openPart } from "../../state/part-slice.ts";
import { useApp } from "../../state/store.ts";

export interface Window {
  /** Millimetres of the blank at the middle of the view, y upwards, and pixels per millimetre. */
  readonly x: number;
  readonly y: number;
  readonly zoom: number;
}

interface Size {
  readonly width: number;
  readonly height: number;
}

/** How large an element is on the page. */
export function useSize(host: RefObject<SVGSVGElement | null>): Size {
  const [size, setSize] = useState<Size>({ width: 0, height: 0 });
  useEffect(() => {
    const watch = new ResizeObserver(([e]) =>
      setSize({ width: e.contentRect.width, height: e.contentRect.height }),
    );
    watch.observe(host.current!);
    return () => watch.disconnect();
  }, [host]);
  return size;
}

/** What is kept free around a drawing, pixels. */
export interface Room {
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
}

/** Room for the header, and for the dimensions below and to the right. */
const ON_BENCH: Room = { left: 41, right: 69, top: 67, bottom: 83 };

/** What is to be seen of a drawing: its bounds and size, mm. */
export interface Framed {
  readonly bounds: Bounds;
  readonly width: number;
  readonly height: number;
}

/**
 * What of the blank is seen: all of it, until it is zoomed to the pointer with the wheel or moved with a drag, and again
 * after a fit. A press that does not move is told as a click.
 */
export function useWindow(
  host: RefObject<SVGSVGElement | null>,
  blank: Framed,
  size: Size,
  onClick: (e: PointerEvent, seen: Window) => void,
  room: Room = ON_BENCH,
) {
  const part = useApp((s) => openPart(s).id);
  const fit = useApp((s) => (s.view.facing.to === "fit" ? s.view.facing.count : 0));
  const [byHand, setByHand] = useState<Window>();
  const { left, right, top, bottom } = room;
  const fitted = useMemo(
    () => fitWindow(blank, size, { left, right, top, bottom }),
    [blank, size, left, right, top, bottom],
  );
  // biome-ignore lint/correctness/useExhaustiveDependencies: a fit, or another part, lets go of what was set by hand
  useEffect(() => setByHand(undefined), [fit, part]);
  const seen = byHand ?? fitted;
  useWheel(host, seen, setByHand);
  const pressed = useRef<{ x: number; y: number; from: Window; moved: boolean } | undefined>(undefined);
  const drag = {
    onPointerDown: (e: PointerEvent) => {
      pressed.current = { x: e.clientX, y: e.clientY, from: seen, moved: false };
    },
    onPointerMove: (e: PointerEvent) => {
      const d = pressed.current;
      if (!d || e.buttons === 0) return;
      const [dx, dy] = [e.clientX - d.x, e.clientY - d.y];
      if (!d.moved && Math.hypot(dx, dy) < 4) return;
      if (!d.moved) e.currentTarget.setPointerCapture(e.pointerId);
      d.moved = true;
      setByHand({ x: d.from.x - dx / seen.zoom, y: d.from.y + dy / seen.zoom, zoom: seen.zoom });
    },
    onPointerUp: (e: PointerEvent) => {
      const d = pressed.current;
      pressed.current = undefined;
      if (d && !d.moved && e.button === 0) onClick(e, seen);
    },
  };
  return { ...seen, drag };
}

/** Zooms about the pointer with the wheel. */
function useWheel(host: RefObject<SVGSVGElement | null>, seen: Window, onZoom: (seen: Window) => void): void {
  const wheel = (e: WheelEvent) => {
    e.preventDefault();
    const { x, y, zoom } = seen;
    const frame = host.current!.getBoundingClientRect();
    const next = Math.max(0.02, Math.min(200, zoom * Math.exp(-e.deltaY * 0.0015)));
    const px = (e.clientX - frame.left - frame.width / 2) / zoom + x;
    const py = y - (e.clientY - frame.top - frame.height / 2) / zoom;
    onZoom({ x: px - ((px - x) * zoom) / next, y: py - ((py - y) * zoom) / next, zoom: next });
  };
  const latest = useRef(wheel);
  latest.current = wheel;
  useEffect(() => {
    const node = host.current!;
    // React's own listener may not keep the page from scrolling.
    const listen = (e: WheelEvent) => latest.current(e);
    node.addEventListener("wheel", listen, { passive: false });
    return () => node.removeEventListener("wheel", listen);
  }, [host]);
}

function fitWindow(
  { bounds, width, height }: Framed,
  size: { width: number; height: number },
  { left, right, top, bottom }: Room,
): Window {
  const zoom = Math.max(
    0.01,
    Math.min((size.width - left - right) / (width || 1), (size.height - top - bottom) / (height || 1)),
  );
  return {
    x: (bounds.minX + bounds.maxX) / 2 + (right - left) / 2 / zoom,
    y: (bounds.minY + bounds.maxY) / 2 - (bottom - top) / 2 / zoom,
    zoom,
  };
}

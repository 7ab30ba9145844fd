import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { type ReactNode, useLayoutEffect, useRef, useState } from "react";

const LEAST_WIDTH = 340;
const GAP = 20;
const HEIGHT = 262;

/** Cards in as many columns as there is room for; of thousands only those in sight are there. */
export function CardGrid({ count, children }: { count: number; children: (index: number) => ReactNode }) {
  const host = useRef<HTMLUListElement>(null);
  const [columns, setColumns] = useState(3);
  const [top, setTop] = useState(0);
  useLayoutEffect(() => {
    const node = host.current!;
    const watch = new ResizeObserver(([e]) => {
      setColumns(Math.max(1, Math.floor((e.contentRect.width + GAP) / (LEAST_WIDTH + GAP))));
      setTop(node.getBoundingClientRect().top + window.scrollY);
    });
    watch.observe(node);
    return () => watch.disconnect();
  }, []);
  const rows = useWindowVirtualizer({
    count: Math.ceil(count / columns),
    estimateSize: () => HEIGHT,
    gap: GAP,
    overscan: 2,
    scrollMargin: top,
  });
  return (
    <ul ref={host} className="relative" style={{ height: rows.getTotalSize() }}>
      {rows.getVirtualItems().map((row) => (
        <li
          key={row.index}
          ref={rows.measureElement}
          data-index={row.index}
          className="absolute inset-x-0 top-0 grid gap-5"
          style={{
            gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`,
            transform: `translateY(${row.start - top}px)`,
          }}
        >
          {Array.from({ length: Math.min(columns, count - row.index * columns) }, (_, i) =>
            children(row.index * columns + i),
          )}
        </li>
      ))}
    </ul>
  );
}

import { type RefObject, useEffect, useMemo, useState } from "react";

/** Of fewer rows all are whole: they cost nothing that one would wait for. */
const FEW_ROWS = 100;
/** So many of the first and the last rows are whole in any case: that is where the column is opened and where keys come in. */
const AT_ENDS = 20;
/** A row is whole before it comes in sight: so far away, in heights of the column. */
const BEFORE = "150%";

/** Tells rows of the column when they come near to what is in sight of it, and when they are far again. */
export interface RowsInSight {
  watch(row: Element, tell: (near: boolean) => void): () => void;
}

/** What watches the rows of a column, made when the first is watched: then the column is there. */
export function useRowsInSight(column: RefObject<HTMLElement | null>): RowsInSight {
  const sight = useMemo(() => {
    const tells = new Map<Element, (near: boolean) => void>();
    let observer: IntersectionObserver | undefined;
    return {
      watch(row: Element, tell: (near: boolean) => void) {
        observer ??= new IntersectionObserver(
          (entries) => {
            for (const { target, isIntersecting } of entries) tells.get(target)?.(isIntersecting);
          },
          { root: column.current, rootMargin: `${BEFORE} 0px` },
        );
        tells.set(row, tell);
        observer.observe(row);
        return () => {
          tells.delete(row);
          observer?.unobserve(row);
        };
      },
      end() {
        observer?.disconnect();
        observer = undefined;
      },
    };
  }, [column]);
  useEffect(() => () => sight.end(), [sight]);
  return sight;
}

/** Whether a row is always whole, wherever it stands: of a few rows each is, of many those at either end. */
export const isAlwaysWhole = (index: number, count: number): boolean =>
  count <= FEW_ROWS || index < AT_ENDS || index >= count - AT_ENDS;

/**
 * Whether a row is near to what is in sight. One that was whole keeps its height when it rests, so that nothing moves. What
 * has the focus is open, and an open row is whole wherever it stands.
 *
 * @param always Whether it is whole wherever it stands: then it is not watched.
 */
export function useInSight(
  row: RefObject<HTMLElement | null>,
  sight: RowsInSight,
  always: boolean,
): { readonly near: boolean; readonly height?: number } {
  const [seen, setSeen] = useState<{ readonly near: boolean; readonly height?: number }>(FAR);
  useEffect(() => {
    const own = row.current;
    if (always || !own) return;
    let wasNear = false;
    const unwatch = sight.watch(own, (near) => {
      if (near === wasNear) return;
      wasNear = near;
      setSeen(near ? { near } : { near, height: own.offsetHeight });
    });
    return () => {
      unwatch();
      setSeen(FAR);
    };
  }, [row, sight, always]);
  return always ? WHOLE : seen;
}

const FAR = { near: false };
const WHOLE = { near: true };

import { type RefObject, useEffect, useRef } from "react";

/** What is held: something in a row, or all of it; the row before; how far below the beginning of all rows it stands, however they are scrolled. */
interface Held {
  readonly at: Element;
  readonly row: Element;
  readonly after: Element | undefined;
  readonly down: number;
  /** How far the column was scrolled. */
  readonly scrolled: number;
}

const ROW = "[data-step]";

/** What somebody is at in the column: what has the focus, or has unfolded the card that has it. */
function inHand(column: HTMLElement): Element | undefined {
  const focused = document.activeElement;
  const card = focused?.closest("[role=dialog][id]");
  const at = card ? column.querySelector(`[aria-controls="${CSS.escape(card.id)}"]`) : focused;
  return at && column.contains(at) && at.closest(ROW) ? at : undefined;
}

/** The first row in sight, looked for at the column's upper edge: asked at every turn of the wheel, of thousands of rows. */
function firstSeen({ left, top }: DOMRect): Element | undefined {
  // Between two rows there is a gap, into which another can be drawn, and the bookmark.
  for (let down = 2; down < 60; down += 12) {
    const row = document.elementFromPoint(left + 4, top + down)?.closest(ROW);
    if (row) return row;
  }
  return undefined;
}

function rowBefore(row: Element): Element | undefined {
  let at = row.previousElementSibling;
  while (at && !at.matches(ROW)) at = at.previousElementSibling;
  return at ?? undefined;
}

/** Whether a change can have pushed an element: it was made above it, or to the rows around it. What is below never does. */
function canPush(
  { type, target, nextSibling, removedNodes, addedNodes }: MutationRecord,
  at: Element,
): boolean {
  // Where something stood that has been removed since, nobody knows any more.
  const isAbove = (node: Node) =>
    !node.isConnected || (node.compareDocumentPosition(at) & Node.DOCUMENT_POSITION_FOLLOWING) !== 0;
  if (type === "characterData" || !target.contains(at)) return isAbove(target);
  const wasRemovedAbove =
    removedNodes.length > 0 && nextSibling !== null && (isAbove(nextSibling) || nextSibling.contains(at));
  return wasRemovedAbove || [...addedNodes].some((node) => isAbove(node) || node.contains(at));
}

const downIn = (rows: Element, at: Element): number =>
  at.getBoundingClientRect().top - rows.getBoundingClientRect().top;

function heldNow(column: HTMLElement, rows: Element): Held | undefined {
  const all = column.getBoundingClientRect();
  const isSeen = (at: Element) => {
    const own = at.getBoundingClientRect();
    return own.bottom > all.top && own.top < all.bottom;
  };
  const hand = inHand(column);
  // With nobody at anything in sight, whoever has scrolled reads on from the first row.
  const at = hand && isSeen(hand) ? hand : column.scrollTop > 0 ? firstSeen(all) : undefined;
  const row = at?.closest(ROW);
  return at && row
    ? { at, row, after: rowBefore(row), down: downIn(rows, at), scrolled: column.scrollTop }
    : undefined;
}

/**
 * Keeps what somebody is at where it stands while rows above it grow and shrink: what checks find is told some
 * time after an edit, and pushed a field, or a list that was just unfolded at it, out of sight under the hand. The browser
 * does so by itself only where it has been scrolled, and for a row of its own choice: it is told not to.
 *
 * @param column What scrolls. Its only child holds all rows.
 * @param moving Whether rows are being moved: then nothing is held.
 */
export function useHeldRow(column: RefObject<HTMLElement | null>, moving: boolean): void {
  const still = useRef(moving);
  still.current = moving;
  useEffect(() => {
    const scrolled = column.current;
    const rows = scrolled?.firstElementChild;
    if (!scrolled || !rows) return;
    let held: Held | undefined;
    // What has grown above it is made up for before another is chosen, at whatever comes first: a turn of the wheel may be
    // told after rows have grown, and before that is. A row that was moved among the others stands where it was put.
    const keep = () => {
      const grown =
        held?.at.isConnected && rowBefore(held.row) === held.after ? downIn(rows, held.at) - held.down : 0;
      if (held && grown !== 0 && !still.current) {
        const { scrollTop, scrollHeight, clientHeight } = scrolled;
        // At the lower end the browser itself has scrolled back what was no longer there: that is not to be done twice.
        const isAtEnd = scrollTop >= scrollHeight - clientHeight - 1;
        scrolled.scrollTop = (isAtEnd ? Math.max(scrollTop, held.scrolled) : scrollTop) + grown;
      }
      held = heldNow(scrolled, rows);
    };
    // Called when all is laid out and nothing is drawn yet: nobody sees it move.
    const sizes = new ResizeObserver(keep);
    sizes.observe(rows);
    // And before anything else is done with rows that have changed: a key that comes then would have the browser scroll the
    // field into sight from where it was pushed to, as if somebody had turned the wheel.
    // A page laid out for nothing is the dearest part of a key: it is done only where the change stands above.
    const changes = new MutationObserver((all) => {
      if (!held) return;
      const { at } = held;
      if (!at.isConnected || all.some((change) => canPush(change, at))) keep();
    });
    changes.observe(rows, { childList: true, characterData: true, subtree: true });
    scrolled.addEventListener("focusin", keep);
    scrolled.addEventListener("scroll", keep);
    // A click may unfold something where nothing takes the focus.
    scrolled.addEventListener("click", keep);
    return () => {
      sizes.disconnect();
      changes.disconnect();
      scrolled.removeEventListener("focusin", keep);
      scrolled.removeEventListener("scroll", keep);
      scrolled.removeEventListener("click", keep);
    };
  }, [column]);
}

import { type Folding, foldPoint, kindOf, type PartBuild, platesOf, type Vector } from "@hillcrest/core";
import { useApp } from "../../state/store.ts";
import { pickKey } from "../../state/view-slice.ts";
import type { Anchor } from "./overlay.tsx";

/** Where a label stands on the flat sheet. */
export interface LabelPlace extends Omit<Anchor, "at"> {
  readonly owner: number;
  readonly flat: Vector;
}

/** Letters stand in the middle of plates, numbers in the middle of bends. */
export function labelPlaces(build: PartBuild): LabelPlace[] {
  const sheet = build.sheet!;
  return sheet.pieces.flatMap((piece, owner): LabelPlace[] => {
    const kind = kindOf(piece);
    const at = kind.labelAt?.(piece);
    if (!at) return [];
    // Seen aslant, a plate's own far side is up to a few thicknesses before its middle.
    const behind = kind.metal === "flat" ? { behind: sheet.t * 4 } : {};
    return [
      { id: `${kind.pickedAs(piece).kind}:${piece.id}`, owner, flat: [at.x, at.y, sheet.t / 2], ...behind },
    ];
  });
}

/** The labels in a fold state. */
export const labelAnchors = (places: readonly LabelPlace[], folding: Folding): Anchor[] =>
  places.map(({ owner, flat, ...rest }) => ({ ...rest, at: foldPoint(folding, owner, flat) }));

interface LabelsProps {
  readonly build: PartBuild;
  readonly register: (id: string) => (node: HTMLElement | null) => void;
}

export function Labels({ build, register }: LabelsProps) {
  const letters = useApp((s) => s.view.letters);
  const hovered = useApp((s) => s.view.hovered);
  const picks = useApp((s) => s.view.picks);
  const lit = new Set([...hovered, ...picks].map(pickKey));
  return (
    <>
      {platesOf(build.sheet!).map((p) => {
        if (!letters && !lit.has(`plate:${p.id}`)) return null;
        return (
          <span
            key={p.id}
            ref={register(`plate:${p.id}`)}
            data-letter={p.letter}
            data-lit={lit.has(`plate:${p.id}`) || undefined}
            className="invisible absolute top-0 left-0 grid h-5 min-w-5 place-items-center rounded-full bg-panel/90 px-1 text-[11px] font-extrabold text-ink"
          >
            {p.letter}
          </span>
        );
      })}
      {build.bends.map((b) =>
        lit.has(`bend:${b.id}`) ? (
          <span
            key={b.id}
            ref={register(`bend:${b.id}`)}
            className={`num invisible absolute top-0 left-0 rounded-full border bg-panel px-1.5 text-[11px] ${b.up ? "border-up text-up" : "border-down text-down"}`}
          >
            {b.number}
            {b.up ? "▲" : "▼"}
          </span>
        ) : null,
      )}
    </>
  );
}

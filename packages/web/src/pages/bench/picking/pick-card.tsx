import {
  curvesBounds,
  featureOfOpening,
  findEdge,
  formatShort,
  lengthText,
  type PartBuild,
  type PartDocument,
  platesOf,
  type RolledRow,
  sayLook,
  shortLength,
  toDegrees,
  type Units,
  unitName,
  whyEdge,
  whyPlate,
} from "@hillcrest/core";
import { useLayoutEffect, useRef, useState } from "react";
import { openBuild } from "../../../state/build-slice.ts";
import { openPart } from "../../../state/part-slice.ts";
import { useBenchSources } from "../../../state/sources.ts";
import { useApp, useSend } from "../../../state/store.ts";
import type { Pick } from "../../../state/view-slice.ts";
import { Key } from "../../../ui/button.tsx";
import { WhyNumber } from "../../../ui/why-card.tsx";
import { pickTitle } from "../../../views/pick-names.ts";
import { actionsFor } from "./pick-actions.ts";

interface PickCardProps {
  readonly labels: ReadonlyMap<string, string>;
  readonly pane: React.RefObject<HTMLDivElement | null>;
}

const GAP = 14;

/** Near a pick: what it is, its size, and what can be done with it, each with its key. */
export function PickCard({ labels, pane }: PickCardProps) {
  const picks = useApp((s) => s.view.picks);
  const at = useApp((s) => s.view.card);
  const build = useApp((s) => openBuild(s).shown?.build);
  const document = useApp((s) => openPart(s).document);
  const send = useSend();
  const card = useRef<HTMLDivElement>(null);
  const [place, setPlace] = useState<{ left: number; top: number }>();

  useLayoutEffect(() => {
    const node = card.current;
    const frame = pane.current?.getBoundingClientRect();
    if (!at || !node || !frame) return;
    const { offsetWidth: w, offsetHeight: h } = node;
    const left = at.x + GAP + w > frame.width - 6 ? at.x - GAP - w : at.x + GAP;
    const top = at.y - GAP - h < 6 ? at.y + GAP : at.y - GAP - h;
    setPlace({
      left: Math.max(6, Math.min(frame.width - w - 6, left)),
      top: Math.max(6, Math.min(frame.height - h - 6, top)),
    });
  }, [at, pane]);

  if (!at || !build?.sheet || !document || picks.length === 0) return null;
  const [kind, name] = pickTitle(picks[0], build, labels);
  return (
    <div
      ref={card}
      data-pick-card
      role="toolbar"
      aria-label={`${kind} ${name}`}
      className="absolute z-20 rounded-md border border-l-[4px] border-hairline border-l-amber bg-panel px-2.5 py-2 shadow-card"
      style={place ?? { visibility: "hidden" }}
    >
      <div className="mb-1.5 flex items-baseline gap-4">
        <span>
          {picks.length > 1 ? <b>{`${picks.length} ${kind.toLowerCase()}s`}</b> : <b>{kind}</b>}{" "}
          {picks.length > 1 ? "picked" : name}
        </span>
        <span className="num ml-auto text-quiet">
          {picks.length === 1 && <Size pick={picks[0]} build={build} document={document} />}
        </span>
      </div>
      {picks[0].kind === "plate" && (document.held?.length ?? 0) > 0 && (
        <p data-held-hint className="mb-1.5 max-w-[330px] text-[12px] leading-snug text-quiet">
          Some bends are only shown flat: what is cut here stays on this plate. For an opening over a bend,
          pick the bend.
        </p>
      )}
      <div className="flex max-w-[330px] flex-wrap gap-1.5">
        {actionsFor(picks, build, document).map((a) => (
          <button
            key={a.key}
            type="button"
            data-action={a.label}
            className="flex items-baseline gap-1.5 rounded border border-hairline bg-ground px-2 py-0.5 whitespace-nowrap hover:border-moss"
            onClick={() => send(a.run)}
          >
            <Key>{a.key === "Delete" ? "Del" : a.key}</Key> {a.label}
          </button>
        ))}
      </div>
    </div>
  );
}

function Size({ pick, build, document }: { pick: Pick; build: PartBuild; document: PartDocument }) {
  const sources = useBenchSources();
  const text = sizeOf(pick, build, document);
  if ((pick.kind !== "edge" && pick.kind !== "plate") || !text) return text;
  const why = () =>
    pick.kind === "edge" ? whyEdge(document, build, pick.name) : whyPlate(document, build, pick.id);
  return <WhyNumber text={text} label="size" why={why} {...sources} />;
}

const sayRolled = ({ up, angle, radius }: RolledRow, units: Units): string =>
  `${up ? "▲ up" : "▼ down"} ${formatShort(toDegrees(angle))}° r ${radius.map((r) => shortLength(r, units)).join(" to ")}`;

function sizeOf(pick: Pick, build: PartBuild, document: PartDocument): string {
  const sheet = build.sheet!;
  const units = document.units ?? "mm";
  switch (pick.kind) {
    case "edge": {
      const found = findEdge(sheet, pick.name);
      if (!found) return "";
      const { piece, edge, length } = found;
      const more = edge.site ? "" : piece.kind === "plate" ? ", curved" : ", in the flat";
      return `${lengthText(length, units)} ${unitName(units)}${more}`;
    }
    case "corner":
      return "";
    case "plate": {
      const plate = platesOf(sheet).find((p) => p.id === pick.id);
      if (!plate) return "";
      const box = curvesBounds(plate.regions.flatMap((r) => r.outer));
      const level = Math.abs(plate.frame.x.x) > 0.5;
      const [w, h] = [box.maxX - box.minX, box.maxY - box.minY];
      return `${lengthText(level ? w : h, units)} × ${lengthText(level ? h : w, units)} ${unitName(units)}`;
    }
    case "bend": {
      const row = build.bends.find((b) => b.id === pick.id);
      if (row)
        return `${row.up ? "▲ up" : "▼ down"} ${formatShort(toDegrees(row.angle))}° r ${shortLength(row.radius, units)}`;
      const rolled = build.rolled.find((r) => r.id === pick.id);
      return rolled ? sayRolled(rolled, units) : "";
    }
    case "hole": {
      const feature = featureOfOpening(sheet, pick.plate, pick.key);
      return feature ? sayLook(feature.look, units) : "";
    }
  }
}

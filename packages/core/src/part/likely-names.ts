import { flangeCornerName, flangeCorners } from "../sheet/corners/meeting-legs.ts";
import { cornerName, outlineCorners } from "../sheet/corners/round-corners.ts";
import { carriersFrom, reopen, type SheetDraft } from "../sheet/draft.ts";
import { edgeLength } from "../sheet/edges.ts";
import { partsOfName } from "../sheet/sheet.ts";

/**
 * Names on a sheet that a lost one may have meant, the likeliest first: an edge of the same role on
 * the same plate's family, then of the same role anywhere, then the longest free edges.
 */
export function likelyNames(draft: SheetDraft, name: string, step: string, most = 4): string[] {
  const { plate, role: whole } = partsOfName(name);
  if (whole === "") return [];
  const role = whole.replace(/@.*$/, "");
  const family = /^s\d+/.exec(plate)?.[0] ?? plate;
  const found: { name: string; rank: number; length: number }[] = [];
  for (const p of draft.pieces.plates()) {
    if (p.step === step) continue;
    const taken = new Set(carriersFrom(draft, p.id).map((b) => b.grownOn?.role));
    for (const edge of p.edges) {
      if (taken.has(edge.role)) continue;
      const alike = edge.role.replace(/@.*$/, "") === role;
      const near = p.id.startsWith(family);
      found.push({
        name: `${p.id}.${edge.role}`,
        rank: (alike ? 0 : 2) + (near ? 0 : 1),
        length: edgeLength(edge),
      });
    }
  }
  found.sort((a, b) => a.rank - b.rank || b.length - a.length);
  return found.slice(0, most).map((f) => f.name);
}

/**
 * Corners that a lost one may have meant, the likeliest first: those that one of its two edges is at, on the
 * same plate's family, then the others of that family. Of flanges that meet, or of outlines, as is asked.
 */
export function likelyCorners(
  draft: SheetDraft,
  name: string,
  of: "flanges" | "outline",
  most = 4,
): string[] {
  const { plate, role } = partsOfName(name);
  const roles = role.split("+");
  const family = /^s\d+/.exec(plate)?.[0] ?? plate;
  const open = reopen(draft);
  const names = draft.pieces
    .plates()
    .flatMap(({ id }) =>
      of === "flanges"
        ? flangeCorners(open, id).map((c) => flangeCornerName(c))
        : outlineCorners(open, id).flatMap((c) => cornerName(c) ?? []),
    );
  const rank = (other: string) => {
    const it = partsOfName(other);
    const shared = it.role.split("+").filter((r) => roles.includes(r)).length;
    return (it.plate === plate ? 0 : other.startsWith(family) ? 1 : 2) * 3 - shared;
  };
  return [...new Set(names)].sort((a, b) => rank(a) - rank(b)).slice(0, most);
}

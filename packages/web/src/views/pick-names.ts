import {
  edgeName,
  type FindingPiece,
  type PartBuild,
  type Pickable,
  partsOfName,
  roleTitle,
} from "@hillcrest/core";
import type { Pick } from "../state/view-slice.ts";

/** The pick that a border stands for: an edge by name, or a hole of a plate. */
export function pickOf({ piece, role }: Pickable): Pick {
  if (role.startsWith("hole:")) return { kind: "hole", plate: piece, key: role.slice(5) };
  return role.startsWith("cut:")
    ? { kind: "hole", plate: piece, key: role }
    : { kind: "edge", name: edgeName(piece, role) };
}

/** What an edge is called on screen: "A north". */
export function edgeTitle(labels: ReadonlyMap<string, string>, name: string): string {
  const { plate, role } = partsOfName(name);
  return `${labels.get(plate) ?? "?"} ${roleTitle(role)}`;
}

/** What a corner is called on screen: "A north–east". */
export function cornerTitle(labels: ReadonlyMap<string, string>, name: string): string {
  const { plate, role } = partsOfName(name);
  const roles = role.split("+").map((one) => labels.get(one) ?? roleTitle(one));
  return `${labels.get(plate) ?? "?"} ${roles.join("–")}`;
}

/** What a pick is called on screen. */
export function pickTitle(
  pick: Pick,
  build: PartBuild,
  labels: ReadonlyMap<string, string>,
): [kind: string, name: string] {
  switch (pick.kind) {
    case "edge":
      return ["Edge", edgeTitle(labels, pick.name)];
    case "corner":
      return ["Corner", cornerTitle(labels, pick.name)];
    case "plate":
      return ["Plate", labels.get(pick.id) ?? ""];
    case "bend":
      return build.rolled.some((r) => r.id === pick.id)
        ? ["Rolled wall", labels.get(pick.id) ?? ""]
        : ["Bend", String(build.bends.find((b) => b.id === pick.id)?.number ?? "")];
    case "hole":
      return [
        pick.key.startsWith("opening:") ? "Opening" : "Round hole",
        `in ${labels.get(pick.plate) ?? ""}`,
      ];
  }
}

/** A piece that a finding or a measurement names, as it is picked. */
export const pickOfPiece = ({ kind, id }: FindingPiece): Pick =>
  kind === "bend" || kind === "cone" ? { kind: "bend", id } : { kind: "plate", id, x: 0, y: 0 };

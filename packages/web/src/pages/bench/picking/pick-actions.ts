import {
  bendsOf,
  edgeName,
  type Formed,
  findSite,
  formedOf,
  insideLoop,
  isFollowed,
  type PartBuild,
  type PartDocument,
  type PickOf,
  partsOfName,
  platesOf,
  rowsOf,
  sheetCorners,
  stepKind,
} from "@hillcrest/core";
import { drawCutOn } from "../../../state/drawn-shape.ts";
import { addRow, keepStill, namesOfPicks, removeRow, stepOn, toggleHeld } from "../../../state/edits.ts";
import type { Thunk } from "../../../state/store.ts";
import { type Pick, viewActions } from "../../../state/view-slice.ts";
import {
  cutAt,
  focusHole,
  holeFromEdges,
  holeOn,
  openOver,
  type PlacePick,
} from "../../../steps/cut-actions.ts";
import { STEP_FACES } from "../../../steps/faces/step-faces.ts";
import { focusFirstField } from "../../../ui/focus.ts";

/** Something that can be done with what is picked. */
export interface PickAction {
  readonly key: string;
  readonly label: string;
  readonly run: Thunk;
}

const openStep =
  (id: string, field?: string): Thunk =>
  (send) => {
    send(viewActions.stepOpened(id));
    focusFirstField(id, field);
  };

/** The step that cut an opening, by the opening's key; the table of a plate's own holes has none. */
const cutterOf = (key: string): string | undefined => /^(?:cut|opening):([A-Za-z]\w*)/.exec(key)?.[1];

/** The plate of a pick and the step that made it. */
function makerOf(pick: Pick, build: PartBuild): string | undefined {
  const sheet = build.sheet;
  const plate =
    pick.kind === "edge" || pick.kind === "corner"
      ? partsOfName(pick.name).plate
      : pick.kind === "hole"
        ? pick.plate
        : pick.id;
  return platesOf(sheet).find((p) => p.id === plate)?.step;
}

/** What can be placed on a plate where it is picked or pointed at, each with its key. */
export const placingOn = (pick: PlacePick, build: PartBuild, document: PartDocument): PickAction[] => [
  { key: "O", label: "Round hole", run: holeOn(pick, build, document) },
  { key: "M", label: "Hole from edges", run: holeFromEdges(pick, build, document) },
  { key: "C", label: "Cut", run: cutAt(pick, build, {}, "width") },
  { key: "D", label: "Draw a cut", run: () => drawCutOn(pick.id) },
  { key: "V", label: "Vent", run: cutAt(pick, build, {}, "width", "vent") },
  { key: "P", label: "Form", run: cutAt(pick, build, {}, "shape", "form") },
];

/** What can be done with picks, each with its key, in the order of likely use. */
export function actionsFor(picks: readonly Pick[], build: PartBuild, document: PartDocument): PickAction[] {
  const pick = picks[0];
  if (!pick) return [];
  const maker = makerOf(pick, build);
  const change: PickAction[] =
    picks.length === 1 &&
    maker &&
    !isFollowed(
      document,
      document.steps.findIndex((s) => s.id === maker),
    )
      ? [
          {
            key: "E",
            label: "Edit its step",
            run: openStep(maker, pick.kind === "bend" ? "angle" : undefined),
          },
        ]
      : [];
  switch (pick.kind) {
    case "edge":
      // From a curved edge, and from the side of a bend, nothing can be grown.
      if (!picks.every((p) => p.kind === "edge" && findSite(build.sheet!, p.name))) return change;
      return [...growing("edge", picks), ...(picks.length === 1 ? alike(pick, build) : []), ...change];
    case "corner": {
      const corners = sheetCorners(build.sheet!);
      const between = corners.find((c) => c.name === pick.name)?.of ?? "outline";
      const more = between === "outline" && picks.length === 1 ? cornersAlike(maker, corners, build) : [];
      return [...growing("corner", picks, between), ...more];
    }
    case "plate": {
      const formed = formedAt(pick, build);
      if (formed)
        return [
          { key: "E", label: `Edit the ${formed.title.toLowerCase()}`, run: openStep(formed.step) },
          ...leavingOut(formed.name ?? "", document),
        ];
      const still = (document.anchor ?? platesOf(build.sheet)[0]?.id) === pick.id;
      return [
        ...placingOn(pick, build, document),
        ...wallsAllRound(pick.id, build),
        ...growing("plate", picks),
        ...(still ? [] : [{ key: "A", label: "Keep still", run: () => keepStill(pick.id) }]),
        ...leavingOut(pick.id, document),
        ...change,
      ];
    }
    case "bend": {
      const held = document.held?.includes(pick.id) ?? false;
      return [
        { key: "X", label: "Opening over it", run: openOver(pick.id, build) },
        { key: "H", label: held ? "Show folded" : "Show flat", run: () => toggleHeld(pick.id) },
        ...growing("bend", picks),
        ...change,
      ];
    }
    case "hole": {
      const cutter = document.steps.find((s) => s.id === cutterOf(pick.key));
      if (cutter)
        return [{ key: "E", label: "Edit", run: openStep(cutter.id) }, ...leavingOut(pick.key, document)];
      const step = document.steps.find((s) => s.id === maker);
      if (!step || !rowsOf(step, "holes").some((h) => h.key === pick.key)) return change;
      return [
        { key: "E", label: "Edit", run: focusHole(step.id, pick.key) },
        {
          key: "Delete",
          label: "Remove",
          run: (send) => {
            removeRow(step, "holes", pick.key);
            send(viewActions.pickCleared());
          },
        },
      ];
    }
  }
}

/** What is formed out of a plate where it was picked. */
export const formedAt = (pick: Extract<Pick, { kind: "plate" }>, build: PartBuild): Formed | undefined =>
  formedOf(build.sheet).find(({ host, outline }) => host === pick.id && insideLoop(outline, pick));

/** Leaves one of many out, or takes it out of its table, where the step that has made it can do without it. */
function leavingOut(name: string, { steps }: PartDocument): PickAction[] {
  for (const step of steps) {
    const found = stepKind(step.kind)?.leftOut?.(step, name);
    if (!found) continue;
    const run: Thunk = (send) => {
      if ("add" in found) addRow(step, found.table, found.add);
      else removeRow(step, found.table, found.remove);
      send(viewActions.pickCleared());
    };
    return [{ key: "Delete", label: "Leave this one out", run }];
  }
  return [];
}

/** Every step that can be started on what is picked, as the faces of the kinds say, with its key. */
function growing(
  of: PickOf,
  picks: readonly Pick[],
  corners: "flanges" | "outline" = "outline",
): PickAction[] {
  return STEP_FACES.flatMap(({ kind, grows = [] }) =>
    grows.flatMap((g): PickAction[] => {
      const fits = g.on === of && (g.corners ?? "outline") === corners && (!g.single || picks.length === 1);
      if (!fits || g.key === undefined) return [];
      const core = stepKind(kind)!;
      const names = namesOfPicks(picks, of);
      const run = () =>
        focusFirstField(stepOn(core, of, names, { ...g.values, ...g.valuesOn?.(names) }), g.field);
      return [{ key: g.key, label: g.label ?? core.title, run }];
    }),
  );
}

/** Flanges on all edges round a plate that nothing stands on, their corners closed. */
function wallsAllRound(id: string, { sheet }: PartBuild): PickAction[] {
  const plate = platesOf(sheet).find((p) => p.id === id);
  if (!sheet || !plate) return [];
  const taken = new Set(bendsOf(sheet).flatMap((b) => (b.parent === id ? [b.edge] : [])));
  const outer = new Set(plate.regions.flatMap((r) => r.outer.map((c) => c.name)));
  const free = plate.edges.filter((e) => !taken.has(e.role) && outer.has(e.role));
  if (free.length < 3) return [];
  const names = free.map((e) => edgeName(id, e.role));
  const run = () => focusFirstField(stepOn(stepKind("flange")!, "edge", names, { meet: "closed" }), "length");
  return [{ key: "W", label: "Walls all round", run }];
}

/** Picks all edges like one: the same edge of all walls of its step, or all free edges of its plate. */
function alike(pick: Extract<Pick, { kind: "edge" }>, build: PartBuild): PickAction[] {
  const { sheet } = build;
  const { plate: id, role } = partsOfName(pick.name);
  const plate = platesOf(sheet).find((p) => p.id === id);
  if (!sheet || !plate) return [];
  const carrying = (p: string, r: string) => bendsOf(sheet).some((b) => b.parent === p && b.edge === r);
  const walls = platesOf(sheet).filter((p) => p.step === plate.step && p.edges.some((e) => e.role === role));
  const names =
    walls.length > 1
      ? walls.flatMap((p) => (carrying(p.id, role) ? [] : [`${p.id}.${role}`]))
      : plate.edges.flatMap((e) => (carrying(id, e.role) ? [] : [`${id}.${e.role}`]));
  if (names.length < 2) return [];
  const run: Thunk = (send) =>
    void send(viewActions.pickedAll(names.map((name) => ({ kind: "edge", name }))));
  return [{ key: "A", label: `All ${names.length} alike`, run }];
}

/** Picks all corners of the outline that the plates of one step have. */
function cornersAlike(
  maker: string | undefined,
  corners: ReturnType<typeof sheetCorners>,
  build: PartBuild,
): PickAction[] {
  const own = new Set(platesOf(build.sheet).flatMap((p) => (p.step === maker ? [p.id] : [])));
  const names = corners.flatMap((c) =>
    c.of === "outline" && own.has(partsOfName(c.name).plate) ? [c.name] : [],
  );
  if (names.length < 2) return [];
  const run: Thunk = (send) =>
    void send(viewActions.pickedAll(names.map((name) => ({ kind: "corner", name }))));
  return [{ key: "A", label: `All ${names.length} alike`, run }];
}

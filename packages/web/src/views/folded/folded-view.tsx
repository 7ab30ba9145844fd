import {
  bendsOf,
  type Folding,
  foldPoint,
  type PartBuild,
  type Region,
  regionBounds,
  type StepDocument,
  type TiledMesh,
} from "@hillcrest/core";
import { Canvas } from "@react-three/fiber";
import { useCallback, useMemo, useRef, useState } from "react";
import { Box3, type OrthographicCamera, type Camera as ThreeCamera, Vector3 } from "three";
import { openBuild } from "../../state/build-slice.ts";
import { openPart } from "../../state/part-slice.ts";
import { pointing } from "../../state/pointing.ts";
import { useApp, useSend } from "../../state/store.ts";
import { noteMoment } from "../../state/timing.ts";
import { type Pick, viewActions } from "../../state/view-slice.ts";
import { pickPlacesOf } from "../pick-places.ts";
import { useFolding } from "../use-folding.ts";
import { Camera } from "./camera.tsx";
import type { Grip } from "./grips.ts";
import { Handles } from "./handles.tsx";
import { Labels, labelAnchors, labelPlaces } from "./labels.tsx";
import { Lighting, Shade } from "./light.tsx";
import { Overlay } from "./overlay.tsx";
import { MarkedLines, PickedLines } from "./picked-lines.tsx";
import { pickAt } from "./picking.ts";
import { type SceneColours, useSceneColours } from "./scene-colours.ts";
import { SharedSpace } from "./shared-space.tsx";
import { SheetSolid } from "./sheet-solid.tsx";

interface FoldedViewProps {
  /** What can be dragged on a plate, or by the step that is open. */
  readonly gripsOn: (
    build: PartBuild,
    folding: Folding,
    plate: string | undefined,
    open: StepDocument | undefined,
    steps: readonly StepDocument[],
  ) => Grip[];
  readonly onPick: (
    pick: Pick | undefined,
    e: { clientX: number; clientY: number; shiftKey: boolean },
  ) => void;
}

/** The folded part: turned, zoomed and picked by mouse, touch and keyboard; drawn only when something changes. */
export function FoldedView(props: FoldedViewProps) {
  const shown = useApp((s) => openBuild(s).shown);
  const folding = useFolding(shown?.build);
  const colours = useSceneColours();
  if (!shown?.mesh || !shown.build.sheet || !folding) return null;
  return <Scene {...props} build={shown.build} mesh={shown.mesh} folding={folding} colours={colours} />;
}

const NO_STEPS: readonly StepDocument[] = [];

interface SceneProps extends FoldedViewProps {
  readonly build: PartBuild;
  readonly mesh: TiledMesh;
  readonly folding: Folding;
  readonly colours: SceneColours;
}

function Scene({ build, mesh, folding, colours, onPick, gripsOn }: SceneProps) {
  const send = useSend();
  const facing = useApp((s) => s.view.facing);
  const part = useApp((s) => openPart(s).id);
  const camera = useRef<ThreeCamera | undefined>(undefined);
  const host = useRef<HTMLDivElement>(null);
  const places = useMemo(() => pickPlacesOf(build.sheet!), [build]);
  const box = useMemo(() => boxOf(build, folding), [build, folding]);
  const drawn = useCallback(() => {
    noteMoment("folded-drawn");
  }, []);
  const find = (e: Spot) => {
    const size = host.current?.getBoundingClientRect();
    if (!size || !camera.current) return undefined;
    const scene = { build, folding, places, camera: camera.current, size };
    return pickAt(scene, e.clientX - size.left, e.clientY - size.top);
  };
  const mmPerPx = () => {
    const size = host.current?.getBoundingClientRect();
    const seen = camera.current as OrthographicCamera | undefined;
    return size && seen ? (seen.right - seen.left) / seen.zoom / size.width : 1;
  };
  const { nodes, register } = useNodes();
  const grips = useGrips(build, folding, gripsOn);
  const labels = useMemo(() => labelPlaces(build), [build]);
  const anchors = useMemo(
    () => [...labelAnchors(labels, folding), ...grips.map((g) => g.anchor)],
    [labels, folding, grips],
  );
  const [away, setAway] = useState(false);
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: everything picked here can also be picked in the steps and the bend list
    <div
      ref={host}
      data-view="folded"
      className="absolute inset-0 overflow-hidden"
      {...usePointing(find, mmPerPx, onPick)}
      onContextMenu={(e) => e.preventDefault()}
    >
      <Canvas
        orthographic
        frameloop="demand"
        dpr={[0.5, 2]}
        gl={{ antialias: true, alpha: true }}
        onCreated={(s) => (camera.current = s.camera)}
      >
        <Lighting night={colours.theme === "night"} />
        <Camera box={box} facing={facing} subject={part ?? ""} onAway={setAway} />
        <SheetSolid sheet={build.sheet!} mesh={mesh} folding={folding} colours={colours} onDrawn={drawn} />
        <Shade box={box} night={colours.theme === "night"} />
        <PickedLines
          build={build}
          folding={folding}
          places={places}
          colour={colours.amber}
          markColour={colours.moss}
        />
        <MarkedLines build={build} folding={folding} colour={colours.ink} />
        <SharedSpace colours={colours} />
        <Overlay anchors={anchors} nodes={nodes} sheet={build.sheet!} folding={folding} />
      </Canvas>
      {away && <WholePart onClick={() => send(viewActions.facingChosen("fit"))} />}
      <div className="pointer-events-none absolute inset-0">
        <Labels build={build} register={register} />
        <Handles grips={grips} register={register} />
      </div>
    </div>
  );
}

interface Spot {
  readonly clientX: number;
  readonly clientY: number;
}

/** A press that does not move picks; moving without a press lights what is under the pointer. */
function usePointing(
  find: (e: Spot) => Pick | undefined,
  mmPerPx: () => number,
  onPick: FoldedViewProps["onPick"],
) {
  const send = useSend();
  const pressed = useRef<{ x: number; y: number } | undefined>(undefined);
  const queued = useRef(0);
  return {
    onPointerDown: (e: React.PointerEvent) => {
      if (e.button === 0) pressed.current = { x: e.clientX, y: e.clientY };
    },
    onPointerUp: (e: React.PointerEvent) => {
      const from = pressed.current;
      pressed.current = undefined;
      if (!from || e.button !== 0 || Math.hypot(e.clientX - from.x, e.clientY - from.y) > 4) return;
      onPick(find(e), e);
    },
    onPointerMove: (e: React.PointerEvent) => {
      if (e.buttons !== 0 || e.pointerType === "touch") return;
      const at = { clientX: e.clientX, clientY: e.clientY };
      pointing.at(at, () => {
        const pick = find(at);
        return pick && { pick, mmPerPx: mmPerPx() };
      });
      cancelAnimationFrame(queued.current);
      queued.current = requestAnimationFrame(() => {
        const over = find(at);
        send(viewActions.hovered(over ? [over] : []));
      });
    },
    onPointerLeave: () => {
      pointing.left();
      cancelAnimationFrame(queued.current);
      send(viewActions.hovered([]));
    },
  };
}

/** The elements that lie over the picture, by the names of their anchors. */
function useNodes() {
  const nodes = useRef(new Map<string, HTMLElement>()).current;
  const register = useCallback(
    (id: string) => (node: HTMLElement | null) => {
      if (node) nodes.set(id, node);
      else nodes.delete(id);
    },
    [nodes],
  );
  return { nodes, register };
}

/** What can be dragged: of the part's own steps, not of those of a part that it follows. */
function useGrips(build: PartBuild, folding: Folding, gripsOn: FoldedViewProps["gripsOn"]): readonly Grip[] {
  const handledPlate = useHandledPlate(build);
  const openStep = useApp((s) => s.view.openStep);
  const steps = useApp((s) => openPart(s).document?.steps ?? NO_STEPS);
  const followed = useApp((s) => openPart(s).document?.follows?.steps ?? 0);
  return useMemo(() => {
    const open = steps.find((s) => s.id === openStep);
    return gripsOn(build, folding, handledPlate, open, steps).filter(
      (g) => build.steps.findIndex((s) => s.id === g.step) >= followed,
    );
  }, [gripsOn, build, folding, handledPlate, openStep, steps, followed]);
}

const WholePart = ({ onClick }: { onClick: () => void }) => (
  <button
    type="button"
    data-fit
    className="absolute right-3 bottom-16 z-10 rounded-full border border-amber bg-panel px-3 py-1 shadow-card hover:bg-amber-soft"
    onPointerDown={(e) => e.stopPropagation()}
    onPointerUp={(e) => e.stopPropagation()}
    onClick={onClick}
  >
    Show the whole part <kbd className="num ml-1 text-quiet">Z</kbd>
  </button>
);

/** The ends of a plate's outline; where they are many or round, the corners of its box. */
function extremes(regions: readonly Region[]): readonly (readonly [number, number])[] {
  return regions.flatMap((region): (readonly [number, number])[] => {
    const { outer } = region;
    if (outer.length <= 24 && outer.every((c) => c.kind === "line")) return outer.map((c) => [c.a.x, c.a.y]);
    const { minX, maxX, minY, maxY } = regionBounds(region);
    return [
      [minX, minY],
      [maxX, minY],
      [maxX, maxY],
      [minX, maxY],
    ];
  });
}

/** A box that the folded plates are in, found from few points: what is looked at must not cost what is drawn. */
function boxOf(build: PartBuild, folding: Folding): Box3 {
  const box = new Box3();
  const { t, pieces } = build.sheet!;
  pieces.forEach((piece, i) => {
    if (piece.kind !== "plate") return;
    for (const [u, v] of extremes(piece.regions))
      for (const w of [0, t]) box.expandByPoint(new Vector3(...foldPoint(folding, i, [u, v, w])));
  });
  return box;
}

/** The flange to show handles on: the one picked, else the first of the step that is open. */
function useHandledPlate(build: PartBuild): string | undefined {
  const pick = useApp((s) => (s.view.picks.length === 1 ? s.view.picks[0] : undefined));
  const open = useApp((s) => s.view.openStep);
  const known = (id: string) => (bendsOf(build.sheet).some((b) => b.child === id) ? id : undefined);
  if (pick?.kind === "plate" || pick?.kind === "bend") return known(pick.id);
  if (pick?.kind === "edge") return pick.name.endsWith(".end") ? known(pick.name.slice(0, -4)) : undefined;
  return bendsOf(build.sheet).find((b) => b.step === open)?.child;
}

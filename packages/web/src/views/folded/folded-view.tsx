import {
  bendsOf,
  type Folding,
  foldPoint,
  type PartBuild,
  type Pickable,
  type Plate,
  type Point,
  pickables,
  platesOf,
  regionArea,
  regionBounds,
  type SheetMesh,
  type StepDocument,
  sheetCorners,
} from "@hillcrest/core";
import { Canvas, useThree } from "@react-three/fiber";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import {
  Box3,
  CanvasTexture,
  type Mesh,
  PMREMGenerator,
  type Camera as ThreeCamera,
  Vector3,
  type WebGLRenderer,
} from "three";
import { RoomEnvironment } from "three/examples/jsm/environments/RoomEnvironment.js";
import { openBuild } from "../../state/build-slice.ts";
import { openPart } from "../../state/part-slice.ts";
import { useApp, useSend } from "../../state/store.ts";
import { noteMoment } from "../../state/timing.ts";
import { type Pick, pickKey, viewActions } from "../../state/view-slice.ts";
import { useFolding } from "../use-folding.ts";
import { Camera } from "./camera.tsx";
import type { Grip } from "./grips.ts";
import { Handles } from "./handles.tsx";
import { type Anchor, Overlay } from "./overlay.tsx";
import { PickedLines } from "./picked-lines.tsx";
import { pickAt } from "./picking.ts";
import { type SceneColours, useSceneColours } from "./scene-colours.ts";
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
  readonly mesh: SheetMesh;
  readonly folding: Folding;
  readonly colours: SceneColours;
}

function Scene({ build, mesh, folding, colours, onPick, gripsOn }: SceneProps) {
  const send = useSend();
  const facing = useApp((s) => s.view.facing);
  const part = useApp((s) => openPart(s).id);
  const solid = useRef<Mesh>(null);
  const camera = useRef<ThreeCamera | undefined>(undefined);
  const host = useRef<HTMLDivElement>(null);
  const borders = useMemo(() => pickables(build.sheet!), [build]);
  const corners = useMemo(() => sheetCorners(build.sheet!), [build]);
  const box = useMemo(() => boxOf(build, folding, borders), [build, folding, borders]);
  const drawn = useCallback(() => {
    noteMoment("folded-drawn");
  }, []);

  const find = (e: { clientX: number; clientY: number }) => {
    const frame = host.current?.getBoundingClientRect();
    if (!frame || !solid.current || !camera.current) return undefined;
    const scene = {
      build,
      mesh,
      folding,
      borders,
      corners,
      solid: solid.current,
      camera: camera.current,
      size: frame,
    };
    return pickAt(scene, e.clientX - frame.left, e.clientY - frame.top);
  };
  const nodes = useRef(new Map<string, HTMLElement>()).current;
  const register = useCallback(
    (id: string) => (node: HTMLElement | null) => {
      if (node) nodes.set(id, node);
      else nodes.delete(id);
    },
    [nodes],
  );
  const handledPlate = useHandledPlate(build);
  const openStep = useApp((s) => s.view.openStep);
  const steps = useApp((s) => openPart(s).document?.steps ?? NO_STEPS);
  const followed = useApp((s) => openPart(s).document?.follows?.steps ?? 0);
  const grips = useMemo(() => {
    const open = steps.find((s) => s.id === openStep);
    return gripsOn(build, folding, handledPlate, open, steps).filter(
      (g) => build.steps.findIndex((s) => s.id === g.step) >= followed,
    );
  }, [gripsOn, build, folding, handledPlate, openStep, steps, followed]);
  const anchors = useMemo(
    () => [...labelAnchors(build, folding), ...grips.map((g) => g.anchor)],
    [build, folding, grips],
  );
  const [away, setAway] = useState(false);
  const pressed = useRef<{ x: number; y: number } | undefined>(undefined);
  const queued = useRef(0);

  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: everything picked here can also be picked in the steps and the bend list
    <div
      ref={host}
      data-view="folded"
      className="absolute inset-0 overflow-hidden"
      onPointerDown={(e) => {
        if (e.button === 0) pressed.current = { x: e.clientX, y: e.clientY };
      }}
      onPointerUp={(e) => {
        const from = pressed.current;
        pressed.current = undefined;
        if (!from || e.button !== 0 || Math.hypot(e.clientX - from.x, e.clientY - from.y) > 4) return;
        onPick(find(e), e);
      }}
      onPointerMove={(e) => {
        if (e.buttons !== 0 || e.pointerType === "touch") return;
        const at = { clientX: e.clientX, clientY: e.clientY };
        cancelAnimationFrame(queued.current);
        queued.current = requestAnimationFrame(() => send(viewActions.hovered(find(at))));
      }}
      onPointerLeave={() => {
        cancelAnimationFrame(queued.current);
        send(viewActions.hovered(undefined));
      }}
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
        <SheetSolid mesh={mesh} folding={folding} colours={colours} solid={solid} onDrawn={drawn} />
        <Shade box={box} night={colours.theme === "night"} />
        <PickedLines
          build={build}
          folding={folding}
          borders={borders}
          corners={corners}
          colour={colours.amber}
          markColour={colours.moss}
        />
        <Overlay anchors={anchors} nodes={nodes} solid={solid} />
      </Canvas>
      {away && (
        <button
          type="button"
          data-fit
          className="absolute right-3 bottom-16 z-10 rounded-full border border-amber bg-panel px-3 py-1 shadow-card hover:bg-amber-soft"
          onPointerDown={(e) => e.stopPropagation()}
          onPointerUp={(e) => e.stopPropagation()}
          onClick={() => send(viewActions.facingChosen("fit"))}
        >
          Show the whole part <kbd className="num ml-1 text-quiet">Z</kbd>
        </button>
      )}
      <div className="pointer-events-none absolute inset-0">
        <Labels build={build} register={register} />
        <Handles grips={grips} register={register} />
      </div>
    </div>
  );
}

function boxOf(build: PartBuild, folding: Folding, borders: readonly Pickable[]): Box3 {
  const box = new Box3();
  const t = build.sheet!.t;
  const take = (p: readonly number[]) => box.expandByPoint(new Vector3(p[0], p[1], p[2]));
  for (const b of borders)
    for (const [p] of b.runs) for (const w of [0, t]) take(foldPoint(folding, b.owner, [p.x, p.y, w]));
  build.sheet!.pieces.forEach((piece, i) => {
    if (piece.kind !== "plate") return;
    for (const c of piece.regions.flatMap((r) => r.outer)) take(foldPoint(folding, i, [c.a.x, c.a.y, 0]));
  });
  return box;
}

/** Whether pictures are drawn by the processor, for want of a graphics card. */
function drawnBySoftware(gl: WebGLRenderer): boolean {
  const context = gl.getContext();
  const named = context.getExtension("WEBGL_debug_renderer_info");
  const name = named ? String(context.getParameter(named.UNMASKED_RENDERER_WEBGL)) : "";
  return /swiftshader|llvmpipe|softpipe|basic render/i.test(name);
}

/** Reflections all the same: for pictures that may take their time. */
const REFLECTIONS = "hillcrest:reflections";

/**
 * A made-up room gives the metal something to reflect; one lamp gives it a lit side. Where the
 * processor draws, the room alone would take seconds at every opening: sky and ground stand in for it.
 */
function Lighting({ night }: { night: boolean }) {
  const { gl, scene, invalidate } = useThree();
  const plain = useMemo(() => drawnBySoftware(gl) && localStorage.getItem(REFLECTIONS) !== "on", [gl]);
  useEffect(() => {
    if (plain) return;
    const generator = new PMREMGenerator(gl);
    const target = generator.fromScene(new RoomEnvironment(), 0.04);
    scene.environment = target.texture;
    invalidate();
    return () => {
      scene.environment = null;
      target.dispose();
      generator.dispose();
    };
  }, [plain, gl, scene, invalidate]);
  useEffect(() => {
    scene.environmentIntensity = night ? 0.5 : 0.72;
    invalidate();
  }, [scene, night, invalidate]);
  return (
    <>
      {plain && <hemisphereLight args={["#ffffff", "#9aa39c", night ? 2 : 2.9]} />}
      <directionalLight position={[-260, -420, 620]} intensity={night ? 1.2 : 1.5} />
      <directionalLight position={[420, 260, 160]} intensity={night ? 0.35 : 0.5} />
    </>
  );
}

/** A soft shade under the part, so that it stands on something. */
function Shade({ box, night }: { box: Box3; night: boolean }) {
  const texture = useMemo(() => {
    const canvas = document.createElement("canvas");
    canvas.width = canvas.height = 128;
    const pen = canvas.getContext("2d")!;
    const fade = pen.createRadialGradient(64, 64, 8, 64, 64, 64);
    fade.addColorStop(0, "rgba(20,30,26,0.20)");
    fade.addColorStop(0.7, "rgba(20,30,26,0.09)");
    fade.addColorStop(1, "rgba(20,30,26,0)");
    pen.fillStyle = fade;
    pen.fillRect(0, 0, 128, 128);
    return new CanvasTexture(canvas);
  }, []);
  const size = box.getSize(new Vector3());
  const at = box.getCenter(new Vector3());
  return (
    <mesh
      position={[at.x, at.y, box.min.z - 0.5]}
      scale={[size.x * 1.28 + 16, size.y * 1.4 + 16, 1]}
      renderOrder={-1}
    >
      <planeGeometry />
      <meshBasicMaterial map={texture} transparent depthWrite={false} opacity={night ? 0.9 : 1} />
    </mesh>
  );
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

/** The middle of a plate's largest piece; of one without metal, where it begins. */
function middleOf({ regions, frame }: Plate): Point {
  if (regions.length === 0) return frame.origin;
  const largest = regions.reduce((a, b) => (regionArea(b) > regionArea(a) ? b : a));
  const { minX, maxX, minY, maxY } = regionBounds(largest);
  return { x: (minX + maxX) / 2, y: (minY + maxY) / 2 };
}

/** Letters stand in the middle of plates, numbers in the middle of bends. */
function labelAnchors(build: PartBuild, folding: Folding): Anchor[] {
  const sheet = build.sheet!;
  return sheet.pieces.flatMap((piece, i): Anchor[] => {
    if (piece.kind === "plate") {
      const at = middleOf(piece);
      // Seen aslant, a plate's own far side is up to a few thicknesses before its middle.
      const behind = sheet.t * 4;
      return [{ id: `plate:${piece.id}`, at: foldPoint(folding, i, [at.x, at.y, sheet.t / 2]), behind }];
    }
    if (piece.kind !== "bend") return [];
    const { id, origin, axis, out, width, allowance } = piece;
    const u = origin.x + (axis.x * width) / 2 + (out.x * allowance) / 2;
    const v = origin.y + (axis.y * width) / 2 + (out.y * allowance) / 2;
    return [{ id: `bend:${id}`, at: foldPoint(folding, i, [u, v, sheet.t / 2]) }];
  });
}

interface LabelsProps {
  readonly build: PartBuild;
  readonly register: (id: string) => (node: HTMLElement | null) => void;
}

function Labels({ build, register }: LabelsProps) {
  const letters = useApp((s) => s.view.letters);
  const hovered = useApp((s) => s.view.hovered);
  const picks = useApp((s) => s.view.picks);
  const lit = new Set([hovered, ...picks].filter((p) => p !== undefined).map((p) => pickKey(p)));
  return (
    <>
      {platesOf(build.sheet!).map((p) => {
        if (!letters && !lit.has(`plate:${p.id}`)) return null;
        return (
          <span
            key={p.id}
            ref={register(`plate:${p.id}`)}
            data-letter={p.letter}
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

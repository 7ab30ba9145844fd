import { useThree } from "@react-three/fiber";
import { useEffect, useRef, useState } from "react";
import type { Scene } from "three";

/** Frames that take longer than this (ms) are not drawn for every move of the pointer. */
const SLOW = 120;
/** So long a pointer rests (ms) before what it is over is lit where frames are slow. */
const REST = 200;
/** So often is looked whether a frame is done, ms. */
const LOOK = 10;

/** How long the last frame took, ms, from when it was asked for until the graphics card had drawn it. */
export interface FrameCost {
  last: number;
}

/**
 * Measures the frames of the scene that this is asked in. The page never waits for one: it is told by the card when the
 * frame is done.
 */
export function useFrameCost(): FrameCost {
  const { gl, scene } = useThree();
  const cost = useRef<FrameCost>({ last: 0 }).current;
  useEffect(() => watchFrames(gl.getContext() as WebGL2RenderingContext, scene, cost), [gl, scene, cost]);
  return cost;
}

/** Keeps `cost` up to date at every frame of a scene that is drawn. Returns how to stop it. */
export function watchFrames(
  card: Pick<WebGL2RenderingContext, "fenceSync" | "getSyncParameter" | "deleteSync" | "flush">,
  scene: Pick<Scene, "onAfterRender">,
  cost: FrameCost,
): () => void {
  let done: WebGLSync | null = null;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const before = scene.onAfterRender;
  scene.onAfterRender = () => {
    // While one is being drawn the next only waits for it.
    if (done) return;
    const began = performance.now();
    done = card.fenceSync(SYNC_GPU_COMMANDS_COMPLETE, 0);
    card.flush();
    const look = () => {
      if (!done) return;
      const status = card.getSyncParameter(done, SYNC_STATUS);
      cost.last = performance.now() - began;
      // A card that was lost says nothing any more.
      if (status !== null && status !== SIGNALED) {
        timer = setTimeout(look, LOOK);
        return;
      }
      card.deleteSync(done);
      done = null;
    };
    timer = setTimeout(look, LOOK);
  };
  return () => {
    clearTimeout(timer);
    if (done) card.deleteSync(done);
    done = null;
    scene.onAfterRender = before;
  };
}

const SYNC_GPU_COMMANDS_COMPLETE = 0x9117;
const SYNC_STATUS = 0x9114;
const SIGNALED = 0x9119;

/**
 * What is shown of something that changes: what it is, or where frames are slow what it has come to rest at. A pointer that
 * passes over twenty openings would have twenty frames drawn one after the other, long after it has gone.
 */
export class Rested<T> {
  constructor(
    private shown: T,
    /** Told when something else is to be shown. */
    private readonly onRest: () => void,
  ) {}

  /** What is to be shown now that it is `value`. */
  shows(value: T, { last }: FrameCost): T {
    if (last <= SLOW) this.shown = value;
    return this.shown;
  }

  /** Waits for `value` to rest, where it is not shown already. Returns how to stop that. */
  wait(value: T): () => void {
    if (this.shown === value) return () => {};
    const timer = setTimeout(() => {
      this.shown = value;
      this.onRest();
    }, REST);
    return () => clearTimeout(timer);
  }
}

/** A value as it is shown; see `Rested`. */
export function useRested<T>(value: T, cost: FrameCost): T {
  const [, again] = useState(0);
  const rested = useRef<Rested<T>>(undefined);
  rested.current ??= new Rested(value, () => again((n) => n + 1));
  const own = rested.current;
  useEffect(() => own.wait(value), [own, value]);
  return own.shows(value, cost);
}

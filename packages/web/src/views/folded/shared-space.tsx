import type { FindingPiece } from "@hillcrest/core";
import { useThree } from "@react-three/fiber";
import { useEffect, useMemo, useState } from "react";
import { BufferAttribute, BufferGeometry, DoubleSide } from "three";
import { openBuild } from "../../state/build-slice.ts";
import { openPart } from "../../state/part-slice.ts";
import { useApp } from "../../state/store.ts";
import { requestShared } from "../../worker/check-client.ts";
import type { SceneColours } from "./scene-colours.ts";

const NONE: readonly string[] = [];

/** The metal that two pieces share where the dial stands, seen through all that is before it. */
export function SharedSpace({ colours }: { colours: SceneColours }) {
  const clash = useApp((s) => s.view.clash);
  return clash ? <Space pieces={clash} colours={colours} /> : null;
}

function Space({
  pieces,
  colours,
}: {
  readonly pieces: readonly [FindingPiece, FindingPiece];
  readonly colours: SceneColours;
}) {
  const { invalidate } = useThree();
  const part = useApp((s) => openPart(s).id);
  const document = useApp((s) => openBuild(s).document);
  const held = useApp((s) => openPart(s).document?.held ?? NONE);
  const share = useApp((s) => s.view.fold);
  const [triangles, setTriangles] = useState<Float32Array>();
  useEffect(() => {
    let wanted = true;
    if (part === undefined || !document) return;
    void requestShared(part, { document, pieces, share, held }).then((outcome) => {
      if (wanted && outcome.kind === "result") setTriangles(outcome.value);
    });
    return () => {
      wanted = false;
    };
  }, [part, document, pieces, share, held]);
  const geometry = useMemo(() => {
    const made = new BufferGeometry();
    made.setAttribute("position", new BufferAttribute(triangles ?? new Float32Array(), 3));
    return made;
  }, [triangles]);
  useEffect(() => {
    invalidate();
    return () => geometry.dispose();
  }, [geometry, invalidate]);
  // What is gone from the scene leaves a frame to be drawn without it.
  useEffect(() => () => invalidate(), [invalidate]);
  if (!triangles || triangles.length === 0) return null;
  return (
    <mesh
      geometry={geometry}
      frustumCulled={false}
      renderOrder={3}
      userData={{ shared: triangles.length / 9 }}
    >
      <meshBasicMaterial
        color={colours.stop}
        side={DoubleSide}
        transparent
        opacity={0.9}
        depthTest={false}
        depthWrite={false}
      />
    </mesh>
  );
}

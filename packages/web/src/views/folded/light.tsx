import { useThree } from "@react-three/fiber";
import { useEffect, useMemo } from "react";
import { type Box3, CanvasTexture, PMREMGenerator, Vector3, type WebGLRenderer } from "three";
import { RoomEnvironment } from "three/examples/jsm/environments/RoomEnvironment.js";

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
export function Lighting({ night }: { night: boolean }) {
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
export function Shade({ box, night }: { box: Box3; night: boolean }) {
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

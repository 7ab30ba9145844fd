// What the bench loads into a bare page: the same sheet as the graphics card folds it and as a plain scene of as many
// triangles and lines that stand still, so that what folding costs is seen by itself.
import {
  evenState,
  examinePart,
  type Folding,
  foldPoint,
  foldSheet,
  kindOf,
  type PartDocument,
  type Sheet,
  type TiledMesh,
  tileSheet,
} from "@hillcrest/core";
import {
  Box3,
  BufferAttribute,
  BufferGeometry,
  Color,
  DirectionalLight,
  Group,
  HemisphereLight,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshStandardMaterial,
  OrthographicCamera,
  Scene,
  Vector3,
  WebGLRenderer,
} from "three";
import type { SceneColours } from "../../src/views/folded/scene-colours.ts";
import { Solid } from "../../src/views/folded/solid.ts";

const COLOURS = {
  theme: "day",
  a: new Color("#9aa7a1"),
  b: new Color("#b3b9a8"),
  edge: new Color("#6f7a75"),
  ink: new Color("#22302a"),
} as unknown as SceneColours;

/** The tiles where they stand in one state, as anybody would draw what does not move. */
function still(sheet: Sheet, folding: Folding, { tiles }: TiledMesh): { group: Group; triangles: number } {
  const group = new Group();
  const metal = new MeshStandardMaterial({ roughness: 0.52, metalness: 0.42, color: COLOURS.a });
  const ink = new LineBasicMaterial({ transparent: true, opacity: 0.62, color: COLOURS.ink });
  let triangles = 0;
  for (const tile of tiles) {
    const positions = new Float32Array(tile.places.length);
    for (let k = 0; k < tile.ownerOf.length; k++) {
      const owner = tile.owners[tile.ownerOf[k]];
      const { origin, across, along } = kindOf(sheet.pieces[owner]).ownFrame(sheet.pieces[owner]);
      const [x, y, w] = tile.places.subarray(k * 3, k * 3 + 3);
      const u = origin.x + across.x * x + along.x * y;
      const v = origin.y + across.y * x + along.y * y;
      positions.set(foldPoint(folding, owner, [u, v, w]), k * 3);
    }
    const position = new BufferAttribute(positions, 3);
    const geometry = (index: Uint32Array) => {
      const made = new BufferGeometry();
      made.setAttribute("position", position);
      made.setIndex(new BufferAttribute(index, 1));
      return made;
    };
    const faces = geometry(tile.triangles);
    faces.computeVertexNormals();
    group.add(new Mesh(faces, metal));
    for (const lines of [tile.sharp, tile.tangent])
      if (lines.length > 0) group.add(new LineSegments(geometry(lines), ink));
    triangles += tile.triangles.length / 3;
  }
  return { group, triangles };
}

export interface FoldingTimes {
  readonly triangles: number;
  /** Milliseconds a frame: of the plain scene, and of the sheet with another state at every frame. */
  readonly still: readonly number[];
  readonly folding: readonly number[];
}

/** The two scenes of a sheet, seen alike: one that stands still in a state, and one that the card folds. */
function scenesOf(sheet: Sheet, mesh: TiledMesh, state: number) {
  const plain = still(sheet, foldSheet(sheet, evenState(sheet, state)), mesh);
  const solid = new Solid();
  solid.show(sheet, mesh);
  solid.paint(COLOURS);
  const renderer = new WebGLRenderer({ antialias: true, alpha: true });
  renderer.setSize(640, 720);
  const box = new Box3().setFromObject(plain.group);
  const middle = box.getCenter(new Vector3());
  const reach = box.getSize(new Vector3()).length() / 2;
  const camera = new OrthographicCamera(-reach, reach, reach * 1.125, -reach * 1.125, 0.1, reach * 8);
  camera.up.set(0, 0, 1);
  camera.position.copy(middle).add(new Vector3(-0.48, -0.78, 0.56).normalize().multiplyScalar(reach * 4));
  camera.lookAt(middle);
  const [first, second] = [plain.group, solid.group].map((group) => {
    const scene = new Scene();
    const [a, b] = [new DirectionalLight("#fff", 1.5), new DirectionalLight("#fff", 0.5)];
    a.position.set(-260, -420, 620);
    b.position.set(420, 260, 160);
    scene.add(group, new HemisphereLight("#ffffff", "#9aa39c", 2.9), a, b);
    group.traverse((o) => {
      o.frustumCulled = false;
    });
    return scene;
  });
  const gl = renderer.getContext();
  /** Draws a scene, and reads a piece of its picture: what is read has to be there. */
  const drawn = (scene: Scene, width: number, height: number): Uint8Array => {
    const pixels = new Uint8Array(width * height * 4);
    if (scene === second) solid.seenFrom(camera.getWorldDirection(new Vector3()).negate(), 320 / reach);
    renderer.render(scene, camera);
    gl.readPixels(0, 0, width, height, gl.RGBA, gl.UNSIGNED_BYTE, pixels);
    return pixels;
  };
  return { triangles: plain.triangles, renderer, solid, first, second, drawn };
}

/** Draws the two in turn, and waits for each frame to be done. */
function measureFolding(document: PartDocument, frames: number): FoldingTimes {
  const sheet = examinePart(document).sheet!;
  const { triangles, renderer, solid, first, second, drawn } = scenesOf(sheet, tileSheet(sheet, 0.05), 0.75);
  const times: { still: number[]; folding: number[] } = { still: [], folding: [] };
  for (let i = 0; i < frames; i++) {
    const before = performance.now();
    drawn(first, 1, 1);
    const between = performance.now();
    solid.fold(sheet, foldSheet(sheet, evenState(sheet, 0.5 + (0.5 * i) / frames)));
    drawn(second, 1, 1);
    const after = performance.now();
    // The first frames make programs and send what is drawn.
    if (i < 3) continue;
    times.still.push(between - before);
    times.folding.push(after - between);
  }
  renderer.dispose();
  return { triangles, ...times };
}

/** How many pixels of a picture are metal, and at how many the two scenes do not agree whether there is any. */
function compareScenes(document: PartDocument, state: number): { metal: number; apart: number } {
  const sheet = examinePart(document).sheet!;
  const { renderer, solid, first, second, drawn } = scenesOf(sheet, tileSheet(sheet, 0.05), state);
  // Lines are fainter where there are many: this is about the metal.
  for (const scene of [first, second])
    scene.traverse((o) => {
      // On a layer that the camera does not look at: whether they are visible is said before each frame.
      if (o instanceof LineSegments) o.layers.set(1);
    });
  // It stood in another state before: nothing of that may be left.
  solid.fold(sheet, foldSheet(sheet, evenState(sheet, 0)));
  drawn(second, 1, 1);
  solid.fold(sheet, foldSheet(sheet, evenState(sheet, state)));
  const [a, b] = [drawn(first, 640, 720), drawn(second, 640, 720)];
  let [metal, apart] = [0, 0];
  for (let i = 3; i < a.length; i += 4) {
    if (a[i] > 127) metal++;
    if (a[i] > 127 !== b[i] > 127) apart++;
  }
  renderer.dispose();
  return { metal, apart };
}

Object.assign(window, { measureFolding, compareScenes });

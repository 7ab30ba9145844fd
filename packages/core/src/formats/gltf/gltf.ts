import type { CleanSurface } from "../stl/clean-surface.ts";
import { compactSurface } from "../stl/compact-surface.ts";

const MAGIC = 0x46546c67;
const JSON_CHUNK = 0x4e4f534a;
const BINARY_CHUNK = 0x004e4942;

/** What a glTF says of itself besides its bytes (glTF 2.0): one mesh of one material, in metres, y up. */
function describe(
  name: string,
  { positions, triangles }: ReturnType<typeof metres>,
  stopped: readonly string[],
  uri?: string,
) {
  const least = [Infinity, Infinity, Infinity];
  const most = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < positions.length; i++) {
    least[i % 3] = Math.min(least[i % 3], positions[i]);
    most[i % 3] = Math.max(most[i % 3], positions[i]);
  }
  return {
    asset: { version: "2.0", generator: "Hillcrest", ...(stopped.length > 0 ? { extras: { stopped } } : {}) },
    scene: 0,
    scenes: [{ nodes: [0] }],
    nodes: [{ mesh: 0, name }],
    materials: [
      {
        name: "Sheet metal",
        pbrMetallicRoughness: {
          baseColorFactor: [0.58, 0.61, 0.58, 1],
          metallicFactor: 0.6,
          roughnessFactor: 0.5,
        },
      },
    ],
    meshes: [{ name, primitives: [{ attributes: { POSITION: 0 }, indices: 1, material: 0 }] }],
    accessors: [
      {
        bufferView: 0,
        componentType: 5126,
        count: positions.length / 3,
        type: "VEC3",
        min: least,
        max: most,
      },
      { bufferView: 1, componentType: 5125, count: triangles.length, type: "SCALAR" },
    ],
    bufferViews: [
      { buffer: 0, byteOffset: 0, byteLength: positions.byteLength, target: 34962 },
      { buffer: 0, byteOffset: positions.byteLength, byteLength: triangles.byteLength, target: 34963 },
    ],
    buffers: [{ byteLength: positions.byteLength + triangles.byteLength, ...(uri ? { uri } : {}) }],
  };
}

/** A surface in metres with y up, as the format has it. */
function metres(surface: CleanSurface) {
  const { positions: mm, triangles } = compactSurface(surface);
  const positions = new Float32Array(mm.length);
  for (let i = 0; i < mm.length; i += 3) {
    positions[i] = mm[i] / 1000;
    positions[i + 1] = mm[i + 2] / 1000;
    positions[i + 2] = -mm[i + 1] / 1000;
  }
  return { positions, triangles };
}

const bytesOf = (v: Float32Array | Uint32Array): Uint8Array =>
  new Uint8Array(v.buffer, v.byteOffset, v.byteLength);

/** A surface as GLB, the binary form of glTF 2.0. */
export function writeGlb(name: string, surface: CleanSurface, stopped: readonly string[] = []): Uint8Array {
  const mesh = metres(surface);
  const json = new TextEncoder().encode(JSON.stringify(describe(name, mesh, stopped)));
  const padded = Math.ceil(json.length / 4) * 4;
  const data = mesh.positions.byteLength + mesh.triangles.byteLength;
  const out = new Uint8Array(12 + 8 + padded + 8 + data);
  const view = new DataView(out.buffer);
  [MAGIC, 2, out.length, padded, JSON_CHUNK].forEach((v, i) => {
    view.setUint32(i * 4, v, true);
  });
  out.fill(0x20, 20, 20 + padded);
  out.set(json, 20);
  view.setUint32(20 + padded, data, true);
  view.setUint32(24 + padded, BINARY_CHUNK, true);
  out.set(bytesOf(mesh.positions), 28 + padded);
  out.set(bytesOf(mesh.triangles), 28 + padded + mesh.positions.byteLength);
  return out;
}

const LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";

/** Bytes as text (RFC 4648). */
function base64(bytes: Uint8Array): string {
  const out: string[] = [];
  for (let i = 0; i < bytes.length; i += 3) {
    const n = (bytes[i] << 16) | ((bytes[i + 1] ?? 0) << 8) | (bytes[i + 2] ?? 0);
    const four = [18, 12, 6, 0].map((shift) => LETTERS[(n >> shift) & 63]);
    if (i + 1 >= bytes.length) four[2] = "=";
    if (i + 2 >= bytes.length) four[3] = "=";
    out.push(four.join(""));
  }
  return out.join("");
}

/** The same as one text that holds its bytes. */
export function writeGltf(name: string, surface: CleanSurface, stopped: readonly string[] = []): string {
  const mesh = metres(surface);
  const bytes = new Uint8Array(mesh.positions.byteLength + mesh.triangles.byteLength);
  bytes.set(bytesOf(mesh.positions));
  bytes.set(bytesOf(mesh.triangles), mesh.positions.byteLength);
  return JSON.stringify(
    describe(name, mesh, stopped, `data:application/octet-stream;base64,${base64(bytes)}`),
  );
}

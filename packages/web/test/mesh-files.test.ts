import { readFileSync } from "node:fs";
import { examineFully, makeFile, type PartDocument, PLAIN_PRESET, readDocumentText } from "@hillcrest/core";
import { validateBytes, validateString } from "gltf-validator";
import { DOMParser } from "linkedom";
import type { BufferGeometry, Mesh } from "three";
import { ThreeMFLoader } from "three/examples/jsm/loaders/3MFLoader.js";
import { describe, expect, test } from "vitest";

const PARTS = ["battery-tray", "logger-box", "cable-cover", "rain-gauge-hood", "guy-wire-eye"];

function documentOf(name: string): PartDocument {
  const read = readDocumentText(readFileSync(new URL(`../../../demo/${name}.json`, import.meta.url), "utf8"));
  if (!read.ok) throw new Error(name);
  return read.value;
}
function made(key: string, name: string, fold = 1) {
  const document = documentOf(name);
  const file = makeFile(document, examineFully(document), {
    format: key,
    preset: PLAIN_PRESET,
    fold,
    anyway: true,
  });
  if (!file.ok) throw new Error(file.error.why);
  return file.value.content;
}
const bytes = (key: string, name: string, fold = 1) => made(key, name, fold) as Uint8Array;

describe("GLB and glTF, held to their standard by its own validator", () => {
  test.each(PARTS)("%s, folded and half folded, has no error, warning or hint", async (name) => {
    for (const fold of [1, 0.5]) {
      const report = await validateBytes(bytes("glb", name, fold));
      expect(report.issues.messages).toEqual([]);
      expect(report.info.totalTriangleCount).toBeGreaterThan(10);
    }
    const text = made("gltf", name) as string;
    expect((await validateString(text)).issues.messages).toEqual([]);
  });
});

/** What a geometry encloses, mm³. */
function volumeOf(geometry: BufferGeometry): number {
  const { position } = geometry.attributes;
  const corners = geometry.index
    ? [...geometry.index.array]
    : Array.from({ length: position.count }, (_, i) => i);
  let volume = 0;
  for (let i = 0; i < corners.length; i += 3) {
    const [a, b, c] = [0, 1, 2]
      .map((k) => corners[i + k])
      .map((v) => [position.getX(v), position.getY(v), position.getZ(v)]);
    volume +=
      (a[0] * (b[1] * c[2] - c[1] * b[2]) +
        a[1] * (b[2] * c[0] - b[0] * c[2]) +
        a[2] * (b[0] * c[1] - c[0] * b[1])) /
      6;
  }
  return volume;
}

describe("3MF, read by a reader that we did not write", () => {
  test.each(PARTS)("%s encloses what the part does", (name) => {
    Object.assign(globalThis, { DOMParser });
    const data = bytes("3mf", name);
    const group = new ThreeMFLoader().parse(
      data.buffer.slice(data.byteOffset, data.byteOffset + data.byteLength) as ArrayBuffer,
    );
    const meshes: Mesh[] = [];
    group.traverse((o) => {
      if ((o as Mesh).isMesh) meshes.push(o as Mesh);
    });
    expect(meshes.length).toBe(1);
    expect(volumeOf(meshes[0].geometry) / examineFully(documentOf(name)).folded!.volume).toBeCloseTo(1, 2);
  });
});

import { FOLD_MAP, FOLD_NUMBERS } from "@hillcrest/core";
import {
  DataTexture,
  FloatType,
  type IUniform,
  type LineBasicMaterial,
  type Material,
  type MeshStandardMaterial,
  NearestFilter,
  RGBAFormat,
} from "three";

/** So many pieces in a row of the picture that carries the fold to the graphics card. */
const IN_ROW = 64;
const COLUMNS = FOLD_NUMBERS / 4;

/**
 * Where all pieces of a sheet stand, as the graphics card reads it: one small picture of numbers, filled anew
 * for each fold state whatever the outlines are.
 */
export class FoldPicture {
  readonly uniforms: {
    readonly foldColumns: IUniform<DataTexture>;
    readonly foldThickness: IUniform<number>;
  };

  constructor() {
    this.uniforms = { foldColumns: { value: picture(1) }, foldThickness: { value: 0 } };
  }

  /** Room for the numbers of so many pieces, to be written into. */
  roomFor(pieces: number): Float32Array {
    const rows = Math.max(1, Math.ceil(pieces / IN_ROW));
    const { foldColumns } = this.uniforms;
    if (foldColumns.value.image.height < rows) {
      foldColumns.value.dispose();
      foldColumns.value = picture(rows);
    }
    return foldColumns.value.image.data as Float32Array;
  }

  /** Says that the numbers are written. */
  written(thickness: number): void {
    this.uniforms.foldThickness.value = thickness;
    this.uniforms.foldColumns.value.needsUpdate = true;
  }

  dispose(): void {
    this.uniforms.foldColumns.value.dispose();
  }
}

function picture(rows: number): DataTexture {
  const width = IN_ROW * COLUMNS;
  const made = new DataTexture(new Float32Array(width * rows * 4), width, rows, RGBAFormat, FloatType);
  made.minFilter = NearestFilter;
  made.magFilter = NearestFilter;
  return made;
}

const FOLDING = `
attribute float piece;
uniform highp sampler2D foldColumns;
uniform float foldThickness;
vec4 foldColumn(int k) {
  int at = int(piece + 0.5);
  return texelFetch(foldColumns, ivec2((at % ${IN_ROW}) * ${COLUMNS} + k, at / ${IN_ROW}), 0);
}
${FOLD_MAP}
`;

/** A shader with one of its own lines replaced; an update of the library that has it no more is told at once. */
function replaced(shader: string, line: string, by: string): string {
  if (!shader.includes(line)) throw new Error(`The shader has no line ${line}.`);
  return shader.replace(line, by);
}

/** Makes a material of lines stand where the fold is. */
export function foldLines(material: LineBasicMaterial, picture: FoldPicture): void {
  fold(material, picture, (vertex) =>
    replaced(
      replaced(vertex, "#include <common>", `#include <common>\n${FOLDING}`),
      "#include <begin_vertex>",
      "vec3 transformed = position; vec3 foldWay = vec3(0.0); foldPlace(transformed, foldWay);",
    ),
  );
}

/**
 * Makes a material of metal stand where the fold is; without a picture of it, where its object stands. Both sides and
 * the cut edges have colours of their own; which a vertex is on, its direction in its
 * piece's own frame says, or its `face` (-1 for side A, 1 for side B) where that does not.
 */
export function foldMetal(
  material: MeshStandardMaterial,
  picture: FoldPicture | undefined,
  [a, b, edge]: readonly [a: IUniform, b: IUniform, edge: IUniform],
): void {
  fold(
    material,
    picture,
    (vertex) =>
      replaced(
        replaced(
          replaced(
            vertex,
            "#include <common>",
            `#include <common>\n${picture ? FOLDING : ""}\nattribute float face; varying float metalSide;`,
          ),
          "#include <beginnormal_vertex>",
          `vec3 foldAt = position; vec3 objectNormal = normal; metalSide = face != 0.0 ? face : normal.z;
           ${picture ? "foldPlace(foldAt, objectNormal);" : ""}`,
        ),
        "#include <begin_vertex>",
        "vec3 transformed = foldAt;",
      ),
    (fragment) =>
      replaced(
        replaced(
          replaced(
            fragment,
            "#include <common>",
            "#include <common>\nvarying float metalSide; uniform vec3 metalA; uniform vec3 metalB; uniform vec3 metalEdge;",
          ),
          "vec4 diffuseColor = vec4( diffuse, opacity );",
          "bool onEdge = abs(metalSide) < 0.5; vec4 diffuseColor = vec4(onEdge ? metalEdge : metalSide < 0.0 ? metalA : metalB, opacity);",
        ),
        "#include <roughnessmap_fragment>",
        "float roughnessFactor = onEdge ? 0.75 : roughness;",
      ),
    { metalA: a, metalB: b, metalEdge: edge },
  );
}

function fold(
  material: Material,
  picture: FoldPicture | undefined,
  vertex: (text: string) => string,
  fragment: (text: string) => string = (text) => text,
  more: Readonly<Record<string, IUniform>> = {},
): void {
  material.onBeforeCompile = (shader) => {
    Object.assign(shader.uniforms, picture?.uniforms, more);
    shader.vertexShader = vertex(shader.vertexShader);
    shader.fragmentShader = fragment(shader.fragmentShader);
  };
  material.customProgramCacheKey = () => (picture ? "folded" : "stiff");
}

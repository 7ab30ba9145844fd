import { type Motion, moveV, turnV, type Vector } from "../../space/vector.ts";
import type { Curl } from "../pieces/piece-kind.ts";
import { kindOf } from "../pieces/piece-kinds.ts";
import type { Piece, Sheet } from "../sheet.ts";
import type { Folding } from "./fold.ts";

/** Numbers of a piece in a fold map: four columns of four. */
export const FOLD_NUMBERS = 16;

const FORMS: Readonly<Record<Curl["form"], number>> = { still: 0, cylinder: 1, cone: 2 };

/** The motion that carries a piece's own frame (across, along, up from the sheet) into space. */
function placeOf(piece: Piece, { motion }: Curl): Motion {
  const { origin, across, along } = kindOf(piece).ownFrame(piece);
  return {
    x: turnV(motion, [across.x, across.y, 0]),
    y: turnV(motion, [along.x, along.y, 0]),
    z: motion.z,
    o: moveV(motion, [origin.x, origin.y, 0]),
  };
}

/**
 * A fold state as numbers for a graphics card, `FOLD_NUMBERS` for each piece in the order of `sheet.pieces`: the
 * columns of the motion that carries the piece's own frame into space, each with one more number at its end, which
 * are the form (0 still, 1 cylinder, 2 cone) and the three numbers of its curl. What a point's place in its own frame
 * becomes is written in `FOLD_MAP`. The work is by piece, whatever its outline.
 *
 * @param into Filled and returned where it is long enough, so that a fold in motion makes nothing new.
 */
export function foldNumbers(sheet: Sheet, { pieces }: Folding, into?: Float32Array): Float32Array {
  const length = sheet.pieces.length * FOLD_NUMBERS;
  const out = into && into.length >= length ? into : new Float32Array(length);
  sheet.pieces.forEach((piece, i) => {
    const curl = kindOf(pieces[i]).curl(pieces[i], sheet.t);
    const { x, y, z, o } = placeOf(piece, curl);
    const [p = 0, q = 0, r = 0] = curl.numbers;
    const column = (k: number, v: Vector, last: number) => {
      const at = i * FOLD_NUMBERS + k * 4;
      out[at] = v[0];
      out[at + 1] = v[1];
      out[at + 2] = v[2];
      out[at + 3] = last;
    };
    column(0, x, FORMS[curl.form]);
    column(1, y, p);
    column(2, z, q);
    column(3, o, r);
  });
  return out;
}

/**
 * The fold map for a graphics card, in the shading language of WebGL 2 (GLSL ES 3.00). `foldPlace` takes a point of a
 * piece's own frame (across, along, height above side A, in mm) and a direction there, and gives both in space.
 * Needs `foldColumn(k)`, which returns column k of the piece, and `foldThickness`. The same as `foldPoint`, in closed
 * forms that keep their digits where a bend is nearly flat and its radius huge: sin φ/φ and (1 − cos φ)/φ. The card's
 * own sine and arc tangent may be off by 1/2000, which is a tenth of a millimetre on a large radius: the ones here are
 * power series on an eighth of a turn, and right to the last digit or two of 32 bits.
 */
export const FOLD_MAP = `
// Sine and cosine: whole quarters of a turn are taken off first, in two parts so that no digit goes with them.
vec2 foldSinCos(float x) {
  float quarters = floor(x * 0.63661977 + 0.5);
  float r = (x - quarters * 1.5703125) - quarters * 4.8382679e-4;
  float q = r * r;
  float s = r * (1.0 + q * (-1.6666667e-1 + q * (8.3333333e-3 + q * (-1.9841270e-4 + q * 2.7557319e-6))));
  float c = 1.0 + q * (-0.5 + q * (4.1666667e-2 + q * (-1.3888889e-3 + q * (2.4801587e-5 - q * 2.7557319e-7))));
  int k = int(quarters) & 3;
  return k == 0 ? vec2(s, c) : k == 1 ? vec2(c, -s) : k == 2 ? vec2(-s, -c) : vec2(-c, s);
}
float foldSinc(float x) {
  float q = x * x;
  return q < 0.25 ? 1.0 - q * (1.6666667e-1 - q * (8.3333333e-3 - q * 1.9841270e-4)) : foldSinCos(x).x / x;
}
float foldArcTan(float y, float x) {
  float low = min(abs(x), abs(y));
  float high = max(max(abs(x), abs(y)), 1e-30);
  float t = low / high;
  bool wide = t > 0.41421356;
  if (wide) t = (t - 1.0) / (t + 1.0);
  float q = t * t;
  float a = t * (1.0 - q * (0.33333333 - q * (0.2 - q * (0.14285714 - q * (0.11111111 - q * (0.09090909 - q * (0.07692308 - q * 0.06666667)))))));
  if (wide) a += 0.78539816;
  if (abs(y) > abs(x)) a = 1.5707963 - a;
  if (x < 0.0) a = 3.1415927 - a;
  return y < 0.0 ? -a : a;
}
void foldCylinder(vec3 numbers, inout vec3 at, inout vec3 way) {
  float rate = numbers.x; float neutral = numbers.y; float up = numbers.z;
  float phi = rate * at.y;
  vec2 turned = foldSinCos(phi);
  float s = turned.x; float c = turned.y;
  float half1 = foldSinCos(phi * 0.5).x;
  float versine = 2.0 * half1 * half1;
  // How far the point lies outside the neutral surface.
  float outside = up > 0.0 ? foldThickness - at.z - neutral : at.z - neutral;
  float forward = at.y * foldSinc(phi) + outside * s;
  float rise = at.y * half1 * foldSinc(phi * 0.5) + outside * versine;
  at = vec3(at.x, forward, at.z + up * rise);
  way = vec3(way.x, way.y * c - up * way.z * s, up * way.y * s + way.z * c);
}
vec3 foldTurned(vec3 axis, float angle, vec3 v) {
  float h = foldSinCos(angle * 0.5).x;
  vec2 turned = foldSinCos(angle);
  return v * turned.y + cross(axis, v) * turned.x + axis * dot(axis, v) * 2.0 * h * h;
}
void foldCone(vec3 numbers, inout vec3 at, inout vec3 way) {
  float sine = numbers.x; float cosine = numbers.y;
  float up = sign(numbers.z); float neutral = abs(numbers.z) - 1.0;
  float rho = length(at.xy);
  float phi = foldArcTan(at.y, at.x);
  vec2 turned = foldSinCos(phi);
  float s = turned.x; float c = turned.y;
  vec3 axis = vec3(cosine, 0.0, up * sine);
  float turn = up * phi / sine;
  at = foldTurned(axis, turn, vec3(rho, 0.0, at.z - neutral)) + vec3(0.0, 0.0, neutral);
  way = foldTurned(axis, turn, vec3(way.x * c + way.y * s, way.y * c - way.x * s, way.z));
}
void foldPlace(inout vec3 at, inout vec3 way) {
  vec4 x = foldColumn(0); vec4 y = foldColumn(1); vec4 z = foldColumn(2); vec4 o = foldColumn(3);
  vec3 numbers = vec3(y.w, z.w, o.w);
  if (x.w > 1.5) foldCone(numbers, at, way);
  else if (x.w > 0.5) foldCylinder(numbers, at, way);
  mat3 turn = mat3(x.xyz, y.xyz, z.xyz);
  at = turn * at + o.xyz;
  way = turn * way;
}
`;

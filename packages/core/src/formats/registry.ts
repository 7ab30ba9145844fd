import { csvFormat } from "./csv/csv-format.ts";
import { dxfFormat } from "./dxf/dxf-format.ts";
import type { FileFormat, Maker } from "./file-format.ts";
import { glbFormat, gltfFormat } from "./gltf/gltf-format.ts";
import { jsonFormat } from "./json/json-format.ts";
import { stlFormat } from "./stl/stl-format.ts";
import { blankPictureFormat, blankSvgFormat } from "./svg/blank-format.ts";
import { foldedPictureFormat, foldedSvgFormat } from "./svg/folded-format.ts";
import { threemfFormat } from "./threemf/threemf-format.ts";

/** Every kind of file there is, in the order in which they are offered. A new one is a folder here and a line in this list. */
export const MAKERS: readonly Maker[] = [
  dxfFormat,
  blankSvgFormat,
  blankPictureFormat,
  jsonFormat,
  csvFormat,
  stlFormat,
  threemfFormat,
  glbFormat,
  gltfFormat,
  foldedSvgFormat,
  foldedPictureFormat,
];

/** The same without what makes them: a part leaves through `makeFile` only. */
export const FILE_FORMATS: readonly FileFormat[] = MAKERS;

export const fileFormat = (key: string): FileFormat | undefined => FILE_FORMATS.find((f) => f.key === key);

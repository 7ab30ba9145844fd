import { strToU8, zipSync } from "fflate";
import type { CleanSurface } from "../stl/clean-surface.ts";
import { compactSurface } from "../stl/compact-surface.ts";
import { xmlText } from "../xml-text.ts";

const TYPES = `<?xml version="1.0" encoding="UTF-8"?>
<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>`;
const RELATIONS = `<?xml version="1.0" encoding="UTF-8"?>
<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Target="/3D/3dmodel.model" Id="rel0" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>`;
/** The same part makes the same file, whenever it is written. */
const MADE = new Date("2000-01-01T00:00:00Z");

/** The fewest digits that are the same number in single precision. */
function single(value: number): string {
  for (let digits = 6; digits < 9; digits++) {
    const short = Number(value.toPrecision(digits));
    if (Math.fround(short) === value) return String(short);
  }
  return String(Number(value.toPrecision(9)));
}

/** A closed surface as 3MF (core specification 1.x), in millimetres. */
export function write3mf(name: string, surface: CleanSurface, stopped: readonly string[] = []): Uint8Array {
  const told =
    stopped.length > 0 ? `<metadata name="Description">${xmlText(stopped.join(" "))}</metadata>` : "";
  const { positions: p, triangles: t } = compactSurface(surface);
  const vertices: string[] = [];
  for (let i = 0; i < p.length; i += 3)
    vertices.push(`<vertex x="${single(p[i])}" y="${single(p[i + 1])}" z="${single(p[i + 2])}"/>`);
  const faces: string[] = [];
  for (let i = 0; i < t.length; i += 3)
    faces.push(`<triangle v1="${t[i]}" v2="${t[i + 1]}" v3="${t[i + 2]}"/>`);
  const model = `<?xml version="1.0" encoding="UTF-8"?>
<model unit="millimeter" xml:lang="en" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02"><metadata name="Title">${xmlText(name)}</metadata>${told}<resources><object id="1" type="model" name="${xmlText(name)}"><mesh><vertices>${vertices.join("")}</vertices><triangles>${faces.join("")}</triangles></mesh></object></resources><build><item objectid="1"/></build></model>`;
  return zipSync(
    {
      "[Content_Types].xml": strToU8(TYPES),
      "_rels/.rels": strToU8(RELATIONS),
      "3D/3dmodel.model": strToU8(model),
    },
    { mtime: MADE },
  );
}

import { readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { Once } from "@hillcrest/core";
import { initWasm, Resvg } from "@resvg/resvg-wasm";

const ready = new Once(() =>
  initWasm(readFileSync(fileURLToPath(import.meta.resolve("@resvg/resvg-wasm/index_bg.wasm")))),
);

/** An SVG as a PNG so many dots wide. */
export async function dotsOf(svg: string, width: number): Promise<Uint8Array> {
  await ready.value;
  return new Resvg(svg, { fitTo: { mode: "width", value: width } }).render().asPng();
}

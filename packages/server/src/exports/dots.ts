import { readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { initWasm, Resvg } from "@resvg/resvg-wasm";

let ready: Promise<void> | undefined;

/** An SVG as a PNG so many dots wide. */
export async function dotsOf(svg: string, width: number): Promise<Uint8Array> {
  ready ??= initWasm(readFileSync(fileURLToPath(import.meta.resolve("@resvg/resvg-wasm/index_bg.wasm"))));
  await ready;
  return new Resvg(svg, { fitTo: { mode: "width", value: width } }).render().asPng();
}

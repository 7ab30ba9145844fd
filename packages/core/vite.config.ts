import { fileURLToPath } from "node:url";
import { defineConfig } from "vite";

const at = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/** The core and what it stands on as one file for Node, beside its types: see docs/decisions/the-core-is-one-file.md. */
export default defineConfig({
  root: at("."),
  ssr: { noExternal: true },
  build: {
    ssr: at("src/index.ts"),
    outDir: at("dist"),
    // The types stand there already.
    emptyOutDir: false,
    target: "node20",
    minify: false,
    sourcemap: true,
  },
});

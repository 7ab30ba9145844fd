import { fileURLToPath } from "node:url";
import { defineConfig } from "vite";

const at = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/** The scene that the bench measures in a bare page, as one file. */
export default defineConfig({
  root: at("."),
  resolve: { conditions: ["source", "module", "browser", "development|production"] },
  build: {
    outDir: at("../.setup/scenes"),
    emptyOutDir: true,
    lib: {
      entry: at("../packages/web/test/scenes/folding.ts"),
      formats: ["es"],
      fileName: () => "folding.js",
    },
  },
});

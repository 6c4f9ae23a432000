import { fileURLToPath } from "node:url";
import { defineConfig } from "vite";

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

export default defineConfig({
  root: here("."),
  base: "./",
  cacheDir: here("../node_modules/.vite"),
  resolve: {
    alias: [
      { find: /^zealous-mantle$/, replacement: here("../src/core/index.ts") },
      { find: /^zealous-mantle\/authoring$/, replacement: here("../src/core/authoring.ts") },
      { find: /^zealous-mantle\/english$/, replacement: here("../src/core/base/messages/english.ts") },
      { find: /^zealous-mantle\/browser$/, replacement: here("../src/browser/index.ts") },
      { find: /^zealous-mantle\/elements$/, replacement: here("../src/elements/index.ts") },
    ],
  },
  server: { fs: { allow: [here("..")] } },
  build: {
    target: "es2023",
    outDir: here("../out/examples"),
    emptyOutDir: true,
    // Hundreds of small pictures inside the program would be fetched by every page, worn or not.
    assetsInlineLimit: 0,
    rollupOptions: {
      input: [
        "index.html",
        "creator/index.html",
        "harbor/index.html",
        "contact/index.html",
        "bare/index.html",
        "plain/index.html",
        "bag/index.html",
        "ferry/index.html",
      ].map(here),
    },
  },
});

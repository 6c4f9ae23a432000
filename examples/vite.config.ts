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
      { find: /^zealous-mantle\/browser$/, replacement: here("../src/browser/index.ts") },
    ],
  },
  server: { fs: { allow: [here("..")] } },
  build: {
    target: "es2023",
    outDir: here("../out/examples"),
    emptyOutDir: true,
    chunkSizeWarningLimit: 1_000,
    rollupOptions: {
      input: ["index.html", "creator/index.html", "harbor/index.html", "contact/index.html"].map(here),
    },
  },
});

import { fileURLToPath } from "node:url";
import { defineConfig, type Plugin } from "vite";
import { aliases } from "../scripts/entries.js";
import { theme } from "../src/elements/theme.ts";
import { serveCatalogs } from "../src/vite/index.ts";

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/** What the head of every page has, and the theme of the screens for what is on the page beside them. */
const sharedHead: Plugin = {
  name: "shared-head",
  transformIndexHtml: {
    order: "pre",
    handler(_html, { path }) {
      const shared = path.lastIndexOf("/") > 0 ? "../shared" : "./shared";
      const onPage = theme.cssText.replaceAll(/:host(\((.*?)\))?/g, ":root$2");
      return [
        { tag: "meta", attrs: { charset: "utf-8" }, injectTo: "head-prepend" },
        { tag: "link", attrs: { rel: "icon", href: `${shared}/icon.svg` }, injectTo: "head-prepend" },
        {
          tag: "meta",
          attrs: { name: "viewport", content: "width=device-width, initial-scale=1" },
          injectTo: "head-prepend",
        },
        { tag: "style", children: onPage, injectTo: "head-prepend" },
        { tag: "link", attrs: { rel: "stylesheet", href: `${shared}/ledger.css` }, injectTo: "head-prepend" },
      ];
    },
  },
};

/** The demo, with its pack laid over it: what the workbench opens, live while somebody changes it. */
const laid = { folder: here("../demo/saltmarsh"), packs: [here("../demo/packs/frost-fair")] };

export default defineConfig({
  plugins: [
    sharedHead,
    serveCatalogs({ "catalogs/saltmarsh": laid, "catalogs/saltmarsh-3d": here("../demo/saltmarsh-3d") }),
  ],
  root: here("."),
  base: "./",
  cacheDir: here("../node_modules/.vite"),
  resolve: {
    alias: aliases,
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
        "atelier/index.html",
        "harbor/index.html",
        "chandlery/index.html",
        "contact/index.html",
        "bare/index.html",
        "plain/index.html",
        "bag/index.html",
        "ferry/index.html",
        "import/index.html",
        "market/index.html",
        "flats/index.html",
        "diorama/index.html",
        "workbench/index.html",
      ].map(here),
    },
  },
});

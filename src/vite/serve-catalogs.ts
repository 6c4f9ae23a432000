import { resolve } from "node:path";
import type { Plugin, ResolvedConfig } from "vite";
import { describeProblem } from "../core/base/format.ts";
import { english } from "../core/base/messages/english.ts";
import { englishArt } from "../core/base/messages/english-art.ts";
import { listFile } from "../core/catalog/file-list.ts";
import { CatalogFolder } from "../node/catalog-folder.ts";
import { type CatalogPlace, folderOf, packsOf } from "../node/catalog-place.ts";
import { listFiles } from "./list-files.ts";
import { WatchedCatalog } from "./watched-catalog.ts";

/**
 * Serves catalogs to the pages of a game, for `openLiveCatalog` of `zealous-mantle/browser`: while the game is made, every change of a file is
 * on the page at once, and a mistake is shown there with file and line; what is built has a copy of each.
 *
 * @param catalogs - folders, from the root of the Vite project, by the path below which each is served; with packs, `{ folder, packs }`.
 * @example
 * // vite.config.ts
 * export default defineConfig({ plugins: [serveCatalogs({ saltmarsh: "art/saltmarsh" })] })
 * // in the game
 * const live = await openLiveCatalog("saltmarsh/")
 */
export function serveCatalogs(catalogs: Readonly<Record<string, CatalogPlace>>): Plugin {
  let config: ResolvedConfig | undefined;
  const open: WatchedCatalog[] = [];
  const places = () =>
    Object.entries(catalogs).map(([path, place]) => {
      const from = (folder: string) => resolve(config?.root ?? ".", folder);
      return {
        path: path.replace(/^\/|\/$/g, ""),
        place: typeof place === "string" ? from(place) : { folder: from(place.folder), packs: place.packs.map(from) },
      };
    });
  return {
    name: "zealous-mantle",
    configResolved(resolved) {
      config = resolved;
    },
    configureServer(server) {
      const base = server.config.base.startsWith("/") ? server.config.base : "/";
      for (const { path, place } of places()) {
        const watched = new WatchedCatalog(place, (warning) => server.config.logger.warn(warning));
        open.push(watched);
        server.watcher.add([folderOf(place), ...packsOf(place)]);
        server.watcher.on("all", (_event, file) => watched.changed(file));
        server.middlewares.use(`${base}${path}`, (request, response, next) => watched.answer(request, response, next));
      }
    },
    async generateBundle() {
      const { inspectCatalog } = await import("../node/load-catalog.ts");
      for (const { path, place } of places()) {
        const { problems } = await inspectCatalog(place);
        for (const problem of problems) {
          const says = `${path}: ${describeProblem(problem, { ...english, ...englishArt })}`;
          if (problem.severity === "error") this.error(says);
          else this.warn(says);
        }
        const listed = await listFiles(place);
        const folder = new CatalogFolder(place);
        for (const file of listed.files) {
          const source = await folder.read(file, { bytes: Number.POSITIVE_INFINITY });
          if (source !== undefined) this.emitFile({ type: "asset", fileName: `${path}/${file}`, source });
        }
        const source = JSON.stringify({ mantle: "files/1", ...listed });
        this.emitFile({ type: "asset", fileName: `${path}/${listFile}`, source });
      }
    },
    closeBundle() {
      for (const watched of open.splice(0)) watched.close();
    },
  };
}

import { readFile } from "node:fs/promises";
import { join, resolve } from "node:path";
import type { Plugin, ResolvedConfig } from "vite";
import { describeProblem } from "../core/base/format.ts";
import { english } from "../core/base/messages/english.ts";
import { listFile } from "../core/catalog/file-list.ts";
import { listFiles } from "./list-files.ts";
import { WatchedCatalog } from "./watched-catalog.ts";

/**
 * Serves catalogs to the pages of a game, for `openLiveCatalog` of `zealous-mantle/browser`: while the game is made, every change of a file is
 * on the page at once, and a mistake is shown there with file and line; what is built has a copy of each.
 *
 * @param catalogs - folders, from the root of the Vite project, by the path below which each is served.
 * @example
 * // vite.config.ts
 * export default defineConfig({ plugins: [serveCatalogs({ saltmarsh: "art/saltmarsh" })] })
 * // in the game
 * const live = await openLiveCatalog("saltmarsh/")
 */
export function serveCatalogs(catalogs: Readonly<Record<string, string>>): Plugin {
  let config: ResolvedConfig | undefined;
  const open: WatchedCatalog[] = [];
  const places = () =>
    Object.entries(catalogs).map(([path, folder]) => ({
      path: path.replace(/^\/|\/$/g, ""),
      folder: resolve(config?.root ?? ".", folder),
    }));
  return {
    name: "zealous-mantle",
    configResolved(resolved) {
      config = resolved;
    },
    configureServer(server) {
      const base = server.config.base.startsWith("/") ? server.config.base : "/";
      for (const { path, folder } of places()) {
        const watched = new WatchedCatalog(folder, (warning) => server.config.logger.warn(warning));
        open.push(watched);
        server.watcher.add(folder);
        server.watcher.on("all", (_event, file) => watched.changed(file));
        server.middlewares.use(`${base}${path}`, (request, response, next) => watched.answer(request, response, next));
      }
    },
    async generateBundle() {
      const { inspectCatalog } = await import("../node/load-catalog.ts");
      for (const { path, folder } of places()) {
        const { problems } = await inspectCatalog(folder);
        for (const problem of problems) {
          const says = `${path}: ${describeProblem(problem, english)}`;
          if (problem.severity === "error") this.error(says);
          else this.warn(says);
        }
        const files = await listFiles(folder);
        for (const file of files)
          this.emitFile({ type: "asset", fileName: `${path}/${file}`, source: await readFile(join(folder, file)) });
        const source = JSON.stringify({ mantle: "files/1", files });
        this.emitFile({ type: "asset", fileName: `${path}/${listFile}`, source });
      }
    },
    closeBundle() {
      for (const watched of open.splice(0)) watched.close();
    },
  };
}

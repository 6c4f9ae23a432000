import type { IncomingMessage, ServerResponse } from "node:http";
import { sep } from "node:path";
import { describeProblem } from "../core/base/format.ts";
import { english } from "../core/base/messages/english.ts";
import { englishArt } from "../core/base/messages/english-art.ts";
import { MantleError } from "../core/base/problem.ts";
import { type FileList, type FolderState, listFile } from "../core/catalog/file-list.ts";
import { CatalogFolder } from "../node/catalog-folder.ts";
import { type CatalogPlace, folderOf, packsOf } from "../node/catalog-place.ts";
import { inspectCatalog } from "../node/load-catalog.ts";
import { listFiles } from "./list-files.ts";

/** Where changes are emitted, from the folder. */
const changesPath = "changes";
/** Milliseconds in which changes that come together are one: an editor writes several files, and some of them in pieces. */
const together = 40;

const types: Readonly<Record<string, string>> = {
  json: "application/json",
  png: "image/png",
  jpg: "image/jpeg",
  jpeg: "image/jpeg",
  glb: "model/gltf-binary",
  gltf: "model/gltf+json",
  bin: "application/octet-stream",
};

/** A catalog folder that is served while somebody works in it. */
export class WatchedCatalog {
  readonly #place: CatalogPlace;
  readonly #warn: (warning: string) => void;
  readonly #listeners = new Set<ServerResponse>();
  #waiting: NodeJS.Timeout | undefined;
  /** How many changes there were: a state that was read before the last of them is not sent. */
  #changes = 0;

  /** @param warn - called with what is wrong, for the terminal. */
  constructor(place: CatalogPlace, warn: (warning: string) => void) {
    this.#place = place;
    this.#warn = warn;
  }

  /** Takes note that a file changed; of another folder, it does nothing. */
  changed(file: string): void {
    if (![folderOf(this.#place), ...packsOf(this.#place)].some((folder) => file.startsWith(folder + sep))) return;
    clearTimeout(this.#waiting);
    this.#waiting = setTimeout(() => void this.#sendToAll(), together);
  }

  /** Answers a request for a file in the folder, the list of files, or news of changes. */
  answer(request: IncomingMessage, response: ServerResponse, next: (error?: unknown) => void): void {
    const [given = ""] = (request.url ?? "").replace(/^\//, "").split("?");
    const path = decodeURIComponent(given);
    if (path === changesPath) void this.#listen(response).catch(next);
    else void this.#send(path, response, next).catch(next);
  }

  close(): void {
    clearTimeout(this.#waiting);
    for (const listener of this.#listeners) listener.end();
  }

  async #send(path: string, response: ServerResponse, next: () => void): Promise<void> {
    const type = types[path.split(".").at(-1) ?? ""];
    if (type === undefined) return next();
    const content = path === listFile ? await this.#list() : await this.#read(path);
    if (content === undefined) {
      response.statusCode = 404;
      response.end();
      return;
    }
    response.setHeader("content-type", type);
    // What changed a moment ago must not come out of a cache.
    response.setHeader("cache-control", "no-store");
    response.end(content);
  }

  async #read(path: string): Promise<Buffer | undefined> {
    try {
      return await new CatalogFolder(this.#place).read(path, { bytes: Number.POSITIVE_INFINITY });
    } catch (error) {
      // Nothing outside of the folder is served.
      if (error instanceof MantleError) return undefined;
      throw error;
    }
  }

  async #list(): Promise<string> {
    const list: FileList = { mantle: "files/1", ...(await listFiles(this.#place)), changes: changesPath };
    return JSON.stringify(list);
  }

  async #listen(response: ServerResponse): Promise<void> {
    response.writeHead(200, { "content-type": "text/event-stream", "cache-control": "no-store" });
    this.#listeners.add(response);
    response.on("close", () => this.#listeners.delete(response));
    const number = this.#changes;
    const state = await this.#state();
    if (number === this.#changes) sendState(response, state);
  }

  async #sendToAll(): Promise<void> {
    this.#changes += 1;
    const number = this.#changes;
    const state = await this.#state();
    if (number !== this.#changes) return;
    for (const mistake of state.mistakes) this.#warn(mistake);
    for (const listener of this.#listeners) sendState(listener, state);
  }

  async #state(): Promise<FolderState> {
    const [listed, mistakes] = await Promise.all([listFiles(this.#place), this.#mistakes()]);
    return { ...listed, mistakes };
  }

  async #mistakes(): Promise<readonly string[]> {
    try {
      const { problems } = await inspectCatalog(this.#place);
      const errors = problems.filter(({ severity }) => severity === "error");
      return errors.map((problem) => describeProblem(problem, { ...english, ...englishArt }));
    } catch (error) {
      if (error instanceof MantleError) return [error.message];
      throw error;
    }
  }
}

function sendState(listener: ServerResponse, state: FolderState): void {
  listener.write(`data: ${JSON.stringify(state)}\n\n`);
}

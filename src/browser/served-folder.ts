import { limits, parseText } from "../core/base/limits.ts";
import { MantleError } from "../core/base/problem.ts";
import type { FetchCatalogOptions } from "./fetch-catalog.ts";
import { fetchFile } from "./fetch-file.ts";

/** A folder on a server. */
export class ServedFolder {
  readonly base: URL;
  readonly #options: FetchCatalogOptions;
  #done = 0;
  #total = 0;

  constructor(url: string, options: FetchCatalogOptions) {
    const base = new URL(url, globalThis.location?.href);
    if (!/(\/|\.json)$/.test(base.pathname)) base.pathname += "/";
    this.base = base;
    this.#options = options;
  }

  /** Where a file is served; `undefined` for one that would lie outside of the folder. */
  urlOf(path: string): string | undefined {
    if (path.split(/[\\/]/).includes("..")) return undefined;
    return new URL(path.split("/").map(encodeURIComponent).join("/"), this.base).href;
  }

  /** Whether a file may be there. */
  mayHave(path: string): boolean {
    return this.#options.files?.includes(path) !== false;
  }

  /** Whether a file is said to be there. */
  has(path: string): boolean {
    return this.#options.files?.includes(path) === true;
  }

  async bytes(path: string): Promise<Uint8Array> {
    return fetchFile(path, this.urlOf(path), { code: "missing-file", signal: this.#options.signal });
  }

  async json(path: string): Promise<unknown> {
    const parsed = parseText(new TextDecoder().decode(await this.bytes(path)), limits.catalogLength);
    if (parsed.ok) return parsed.value;
    throw new MantleError("missing-file", `"${path}" at ${this.urlOf(path)} is not JSON.`);
  }

  /** Does something for each of several files at once, and tells of each that is done. */
  async all<T>(paths: readonly string[], fetchOne: (path: string) => Promise<T>): Promise<readonly T[]> {
    this.#tell(0, paths.length);
    return Promise.all(
      paths.map((path) =>
        fetchOne(path).then((value) => {
          this.#tell(1, 0);
          return value;
        }),
      ),
    );
  }

  #tell(done: number, more: number): void {
    this.#done += done;
    this.#total += more;
    this.#options.onProgress?.({ done: this.#done, total: this.#total });
  }
}

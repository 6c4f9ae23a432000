import { limits, parseText } from "../core/base/limits.ts";
import { MantleError } from "../core/base/problem.ts";
import type { Progress } from "../core/base/progress.ts";
import { fetchFile } from "./fetch-file.ts";

/** What is known of a folder on a server, and of who fetches from it. */
export interface FolderOptions {
  /**
   * The paths of the files in the folder, as a bundler or a server lists them: patterns of `include` are looked up in it, and what is not in it
   * is not asked for. Without it, `include` has to name each file.
   */
  readonly files?: readonly string[];
  /** Is called as files arrive. More may be found to be needed on the way, so `total` may grow. */
  readonly onProgress?: (progress: Progress) => void;
  /** Gives up when it is aborted. */
  readonly signal?: AbortSignal;
}

/** A pack on a server: where its folder is served, and the files in it, where they are listed. */
export interface ServedPack extends Pick<FolderOptions, "files"> {
  readonly url: string;
}

/** A folder on a server. */
export class ServedFolder {
  readonly base: URL;
  readonly #options: FolderOptions;
  /** The folders of packs, by where their files are found from this one. */
  readonly #packs = new Map<string, ServedFolder>();
  #done = 0;
  #total = 0;

  constructor(url: string, options: FolderOptions) {
    const base = new URL(url, globalThis.location?.href);
    if (!/(\/|\.json)$/.test(base.pathname)) base.pathname += "/";
    this.base = base;
    this.#options = options;
  }

  /** Takes files whose paths begin so from the folder of a pack. */
  hold(beginning: string, pack: ServedFolder): void {
    this.#packs.set(beginning, pack);
  }

  /** The pack that holds a file, and its path there. */
  #inPack(path: string): { readonly folder: ServedFolder; readonly path: string } | undefined {
    for (const [beginning, folder] of this.#packs)
      if (path.startsWith(beginning)) return { folder, path: path.slice(beginning.length) };
    return undefined;
  }

  /** Whether the folder of a pack holds a file. */
  isOfPack(path: string): boolean {
    return this.#inPack(path) !== undefined;
  }

  /** Where a file is served; `undefined` for one that would lie outside of the folder, or that has half a character, as no address can. */
  urlOf(path: string): string | undefined {
    const held = this.#inPack(path);
    if (held !== undefined) return held.folder.urlOf(held.path);
    if (path.split(/[\\/]/).includes("..") || /\p{Surrogate}/u.test(path)) return undefined;
    return new URL(path.split("/").map(encodeURIComponent).join("/"), this.base).href;
  }

  /** Whether a file may be there. */
  mayHave(path: string): boolean {
    const held = this.#inPack(path);
    return held === undefined ? this.#options.files?.includes(path) !== false : held.folder.mayHave(held.path);
  }

  /** Whether a file is said to be there. */
  has(path: string): boolean {
    const held = this.#inPack(path);
    return held === undefined ? this.#options.files?.includes(path) === true : held.folder.has(held.path);
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

import { constants, type Stats } from "node:fs";
import { type FileHandle, open, realpath } from "node:fs/promises";
import { basename, dirname, join, sep } from "node:path";
import { getOrInsert } from "../core/base/get-or-insert.ts";
import { limits } from "../core/base/limits.ts";
import { MantleError } from "../core/base/problem.ts";
import { inPack } from "../core/catalog/pack-paths.ts";
import { type CatalogPlace, folderOf, packsOf } from "./catalog-place.ts";
import { reasonOf } from "./file-error.ts";

/** Whether a path, or a pattern of paths, is one inside a folder by its form: `parts/hat.png`. */
export function isInside(path: string): boolean {
  if (path === "" || path.startsWith("/") || /[\\\0]|^[a-z]:/i.test(path)) return false;
  return !path.split("/").includes("..");
}

/** How many bytes files may have together; what is read is taken off. */
export interface Allowance {
  bytes: number;
}

/**
 * A folder that may come from a stranger: nothing is read outside of it, wherever links lead, and nothing but regular files.
 *
 * Where its own folders really are is looked up once, so it is for one reading of a catalog, and not for longer.
 */
export class CatalogFolder {
  readonly path: string;
  readonly #folders = new Map<string, Promise<string | undefined>>();
  /** Where files of packs are, whose paths begin with `packs/` and the id of one; `undefined` where no pack is laid over it. */
  readonly #packs: PackFolders | undefined;

  constructor(place: CatalogPlace) {
    this.path = folderOf(place);
    const packs = packsOf(place);
    this.#packs = packs.length === 0 ? undefined : new PackFolders(packs);
  }

  /**
   * The real path of a file or a folder in it; `undefined` when there is none.
   *
   * @throws MantleError `unreadable-file` for one that is outside.
   */
  async find(path: string): Promise<string | undefined> {
    if (!isInside(path)) throw unreadable(path, outside);
    const found = await this.#inPack(path);
    return found === undefined ? this.#real(path) : found.folder.find(found.path);
  }

  /**
   * Reads a file, if its size is left.
   *
   * @returns `undefined` when there is no such file.
   * @throws MantleError `unreadable-file`, naming the file.
   */
  async read(path: string, allowance: Allowance): Promise<Buffer | undefined> {
    return this.#withFile(path, async (file, { size }) => {
      if (size > allowance.bytes)
        throw unreadable(path, `it has ${size} bytes, and no more than ${allowance.bytes} may be`);
      allowance.bytes -= size;
      return readBytes(file, size);
    });
  }

  /** Reads the first bytes of a file, as far as there are so many. @throws as `read` does. */
  async readHead(path: string, count: number): Promise<Buffer | undefined> {
    return this.#withFile(path, (file) => readBytes(file, count));
  }

  /** The pack in which a file is, and its path there. */
  async #inPack(path: string): Promise<{ readonly folder: CatalogFolder; readonly path: string } | undefined> {
    const named = this.#packs === undefined ? undefined : inPack(path);
    const folder = named && (await this.#packs?.find(named.pack));
    return named === undefined || folder === undefined ? undefined : { folder, path: named.path };
  }

  async #withFile<T>(path: string, act: (file: FileHandle, found: Stats) => Promise<T>): Promise<T | undefined> {
    const file = await this.#open(path);
    if (file === undefined) return undefined;
    try {
      const found = await file.stat();
      if (found.isDirectory()) throw unreadable(path, "it is a folder");
      if (!found.isFile()) throw unreadable(path, "it is not a regular file");
      return await act(file, found);
    } catch (error) {
      throw error instanceof MantleError ? error : unreadable(path, reasonOf(error));
    } finally {
      await file.close();
    }
  }

  /** Opens a file without following a link, or where a link leads, if that is inside. */
  async #open(path: string): Promise<FileHandle | undefined> {
    if (!isInside(path)) throw unreadable(path, outside);
    const found = await this.#inPack(path);
    if (found !== undefined) return found.folder.#open(found.path);
    const folder = await getOrInsert(this.#folders, dirname(path), () => this.#real(dirname(path)));
    if (folder === undefined) return undefined;
    try {
      if (constants.O_NOFOLLOW !== undefined) return await openAsIs(join(folder, basename(path)));
    } catch (error) {
      if (Object(error).code === "ENOENT") return undefined;
      if (Object(error).code !== "ELOOP") throw unreadable(path, reasonOf(error));
    }
    const real = await this.#real(path);
    return real === undefined
      ? undefined
      : openAsIs(real).catch((error) => Promise.reject(unreadable(path, reasonOf(error))));
  }

  async #real(path: string): Promise<string | undefined> {
    try {
      const [root, real] = await Promise.all([realpath(this.path), realpath(join(this.path, path))]);
      if (real === root || real.startsWith(root.endsWith(sep) ? root : root + sep)) return real;
    } catch (error) {
      if (Object(error).code === "ENOENT") return undefined;
      throw unreadable(path, reasonOf(error));
    }
    throw unreadable(path, outside);
  }
}

/** The folders of packs, and the id of each. */
class PackFolders {
  readonly #all: readonly CatalogFolder[];
  #byId: Promise<ReadonlyMap<string, CatalogFolder>> | undefined;

  constructor(paths: readonly string[]) {
    this.#all = paths.map((path) => new CatalogFolder(path));
  }

  /** The folder of a pack; `undefined` for one that is not among them. */
  async find(id: string): Promise<CatalogFolder | undefined> {
    this.#byId ??= this.#read();
    return (await this.#byId).get(id);
  }

  async #read(): Promise<ReadonlyMap<string, CatalogFolder>> {
    const found = await Promise.all(
      this.#all.map(async (folder) => {
        const id = await idOfPack(folder);
        return id === undefined ? [] : [[id, folder] as const];
      }),
    );
    // Of two of one id, the first is the one that is read.
    return new Map(found.flat().reverse());
  }
}

/** The id that the `pack.json` of a folder has. What is wrong with that file is said where it is read whole. */
export async function idOfPack(folder: CatalogFolder): Promise<string | undefined> {
  try {
    const bytes = await folder.read("pack.json", { bytes: limits.catalogLength });
    const id: unknown = Object(JSON.parse(bytes?.toString("utf8") ?? "null")).id;
    return typeof id === "string" ? id : undefined;
  } catch (error) {
    if (error instanceof MantleError || error instanceof SyntaxError) return undefined;
    throw error;
  }
}

/** The first bytes of a file, so many or as many as there are. */
async function readBytes(file: FileHandle, count: number): Promise<Buffer> {
  const bytes = Buffer.allocUnsafe(count);
  let length = 0;
  for (let read = -1; read !== 0 && length < count; length += read)
    read = (await file.read(bytes, length, count - length, length)).bytesRead;
  return bytes.subarray(0, length);
}

/** Nothing is waited for, and no link is followed. */
function openAsIs(path: string): Promise<FileHandle> {
  return open(path, constants.O_RDONLY | (constants.O_NOFOLLOW ?? 0) | (constants.O_NONBLOCK ?? 0));
}

const outside = "it leads out of the catalog folder";

function unreadable(path: string, reason: string): MantleError {
  return new MantleError("unreadable-file", `${path} cannot be read: ${reason}.`);
}

/** For those who look through files: one that cannot be read is nothing to them, and somebody else says so. */
export function nothingIfUnreadable(error: unknown): undefined {
  if (!(error instanceof MantleError)) throw error;
}

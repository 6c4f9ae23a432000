import { limits, parseText } from "../core/base/limits.ts";
import { MantleError } from "../core/base/problem.ts";
import { type FileList, listFile } from "../core/catalog/file-list.ts";
import { inPack, packFolder } from "../core/catalog/pack-paths.ts";
import { fetchFile } from "./fetch-file.ts";
import type { FolderOptions, ServedPack } from "./served-folder.ts";

/** The files of a served catalog, and its packs. */
export interface ServedFiles extends Required<Pick<FolderOptions, "files">> {
  readonly packs: readonly ServedPack[];
}

/**
 * Lists what a folder has that `serveCatalogs` of `zealous-mantle/vite` serves, for `fetchCatalog`: for a worker, or to leave packs out.
 *
 * @param url - of the folder; relative to the page.
 * @throws MantleError `missing-file` where the folder is not served so.
 * @example
 * const { files, packs } = await listServed("saltmarsh/")
 * const plain = await fetchCatalog("saltmarsh/", { files })
 */
export async function listServed(url: string): Promise<ServedFiles> {
  const base = new URL(url.endsWith("/") ? url : `${url}/`, globalThis.location?.href);
  return filesOf(await fetchList(base, undefined), base);
}

/** The files of a list that are of the catalog, and those of each of its packs. @param more - further packs. */
export function filesOf(
  { files, packs = [] }: Pick<FileList, "files" | "packs">,
  base: URL,
  more: readonly ServedPack[] = [],
): ServedFiles {
  const served = packs.map((id) => {
    const folder = packFolder(id);
    const own = files.filter((file) => file.startsWith(folder));
    return { url: new URL(folder, base).href, files: own.map((file) => file.slice(folder.length)) };
  });
  return { files: files.filter((file) => inPack(file) === undefined), packs: [...served, ...more] };
}

export async function fetchList(base: URL, signal: AbortSignal | undefined): Promise<FileList> {
  const url = new URL(listFile, base).href;
  const advice = "Serve the folder by serveCatalogs of zealous-mantle/vite, or open a plain one by fetchCatalog.";
  const bytes = await fetchFile(listFile, url, { code: "missing-file", signal }).catch((error: unknown) => {
    if (error instanceof MantleError) throw new MantleError("missing-file", `${error.message} ${advice}`);
    throw error;
  });
  const parsed = parseText(new TextDecoder().decode(bytes), limits.catalogLength);
  if (parsed.ok && Object(parsed.value).mantle === "files/1") return parsed.value as FileList;
  throw new MantleError("missing-file", `"${listFile}" at ${url} is no list of files. ${advice}`);
}

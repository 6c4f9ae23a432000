/** The folder in which the files of a pack are found, seen from the catalog. */
export function packFolder(id: string): string {
  return `packs/${id}/`;
}

/** The pack whose file has a path, and the path in its folder; `undefined` for a file of the catalog. */
export function inPack(path: string): { readonly pack: string; readonly path: string } | undefined {
  const [, pack, rest] = /^packs\/([^/]+)\/(.+)$/s.exec(path) ?? [];
  return pack === undefined || rest === undefined ? undefined : { pack, path: rest };
}

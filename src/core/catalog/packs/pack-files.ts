/** The files of a pack, parsed: where it is laid over a catalog, its folder is `packs/`, its id, and a slash. */
export interface PackFiles {
  /** The content of `pack.json`. */
  readonly source: unknown;
  /** The contents of the files it includes, by their path in the folder of the pack. */
  readonly included?: Readonly<Record<string, unknown>>;
}

/** The file in a served catalog folder that lists the others, and says where changes are emitted, if they are. */
export const listFile = "files.json";

/** What that file holds. */
export interface FileList {
  readonly mantle: "files/1";
  /** The paths of all files in the folder. */
  readonly files: readonly string[];
  /** The packs that are laid over it, by their ids; their files are below `packs/`, their id, and a slash. */
  readonly packs?: readonly string[];
  /** Where the server emits changes, as server-sent events (of HTML), from the folder. */
  readonly changes?: string;
}

/** What the server emits of a folder, once at first and at every change. */
export interface FolderState {
  readonly files: readonly string[];
  readonly packs: readonly string[];
  /** What is wrong, in words with file and line; the catalog can be used where nothing is. */
  readonly mistakes: readonly string[];
}

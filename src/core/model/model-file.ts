/** A model that was read. What it consists of is asked through the functions that take it. */
export interface ModelFile {
  /** The name of its file. */
  readonly name: string;
}

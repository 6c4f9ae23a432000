/** How far something is. */
export interface Progress {
  readonly done: number;
  readonly total: number;
}

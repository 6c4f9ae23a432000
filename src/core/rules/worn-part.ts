import type { Part } from "../catalog/model/catalog.ts";

/** A part in the slot where it is worn. */
export interface Worn {
  readonly slot: string;
  readonly part: Part;
  /** Worn because the slot is required and nothing else is in it; not chosen, and not owned. */
  readonly issued: boolean;
}

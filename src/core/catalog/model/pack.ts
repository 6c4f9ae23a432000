import type { Text } from "../../base/text.ts";

/** A catalog that is laid over another: an expansion, a mod. */
export interface Pack {
  readonly id: string;
  readonly version: string;
  readonly title: Text;
  /** The packs it is laid upon, besides the catalog. */
  readonly needs: readonly string[];
}

/** By section and id, the packs of what characters can name. */
export type AddedBy = Readonly<
  Record<"bodies" | "slots" | "parts" | "channels" | "ramps" | "outfits", ReadonlyMap<string, string>>
>;

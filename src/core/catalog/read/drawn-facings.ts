import type { RigSource } from "../schema/art-schema.ts";

/** The facings that are drawn, in their order: all but mirror images of others. */
export function drawnFacings({ facings }: RigSource): readonly string[] {
  return facings.flatMap((facing) => {
    if (typeof facing === "string") return [facing];
    return facing.mirror === undefined ? [facing.id] : [];
  });
}

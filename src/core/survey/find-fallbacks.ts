import { getOrInsert } from "../base/get-or-insert.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import { shownAnimation } from "../look/cels-at.ts";
import { fitsBody } from "../rules/fits-body.ts";
import { partsLook } from "./art/art-facts.ts";

/** An animation that some parts were not drawn for. */
export interface Fallback {
  readonly rig: string;
  readonly animation: string;
  /** The animation their layers show in its place; `undefined` where they show nothing. */
  readonly shown: string | undefined;
  /** Their ids, in the order of the catalog. */
  readonly parts: readonly string[];
}

/** Finds what is shown in place of animations that were not drawn: none of it is wrong, and all of it is worth a look. */
export function findFallbacks(catalog: Catalog): readonly Fallback[] {
  const found = new Map<string, Fallback & { readonly parts: string[] }>();
  for (const body of catalog.bodies.values())
    for (const part of catalog.parts.values()) {
      if (part.layers.length === 0 || !fitsBody(part, body.id)) continue;
      for (const layer of partsLook(catalog, body, [part]).layers)
        for (const animation of body.rig.animations.values()) {
          const shown = shownAnimation(body.rig, layer, animation)?.id;
          if (shown === animation.id) continue;
          const key = [body.rig.id, animation.id, shown].join(" ");
          const same = { rig: body.rig.id, animation: animation.id, shown, parts: [] };
          const { parts } = getOrInsert(found, key, () => same);
          if (!parts.includes(part.id)) parts.push(part.id);
        }
    }
  return [...found.values()];
}

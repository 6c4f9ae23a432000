import { getOrInsert } from "../../base/get-or-insert.ts";
import type { Body, Catalog } from "../../catalog/model/catalog.ts";
import type { LookLayer } from "../../look/look.ts";
import { fitsBody } from "../../rules/fits-body.ts";
import { bareLook, partsLook } from "./art-facts.ts";

/** The facings and depths, `south 40`, at which layers of several slots lie, or those of a slot and of the body. */
export type SharedDepths = ReadonlySet<string>;

/** What stands at one depth on a body, and of which only the order of its slots says what is in front. */
export function sharedDepths(catalog: Catalog, body: Body): SharedDepths {
  const slots = new Map<string, Set<string>>();
  const note = (slot: string, layers: readonly LookLayer[]) => {
    for (const { id } of body.rig.facings.values())
      for (const layer of layers) getOrInsert(slots, `${id} ${depthIn(layer, id)}`, () => new Set()).add(slot);
  };
  note("", bareLook(catalog, body).layers);
  for (const part of catalog.parts.values())
    if (part.layers.length > 0 && fitsBody(part, body.id))
      note(part.slots[0] ?? "", partsLook(catalog, body, [part]).layers);
  return new Set([...slots].flatMap(([depth, { size }]) => (size > 1 ? [depth] : [])));
}

/** How near a layer is to the viewer in a drawn facing. */
export function depthIn({ depth, depthByFacing }: LookLayer, facing: string): number {
  return depthByFacing.get(facing) ?? depth;
}

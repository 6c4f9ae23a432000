import type { Catalog } from "../../catalog/model/catalog.ts";

/** Whether a part is a thing, which is carried when it is not worn; `false` for one that the catalog does not know. */
export function isGear({ parts, slots }: Catalog, id: string): boolean {
  return parts.get(id)?.slots.some((slot) => slots.get(slot)?.kind === "gear") ?? false;
}

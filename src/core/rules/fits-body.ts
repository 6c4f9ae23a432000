import type { Part } from "../catalog/model/catalog.ts";

/** Whether the part was made for the body. */
export function fitsBody(part: Part, body: string): boolean {
  return part.fits === undefined || part.fits.has(body);
}

import type { Body, Layer } from "../catalog/model/catalog.ts";

/** The path of a layer's picture on a body, inside the catalog folder. */
export function pictureOf(layer: Layer, body: Body): string {
  return layer.image.replaceAll("{body}", body.artName);
}

import { type Catalog, type Character, type Image, type Images, type Look, resolveLook } from "zealous-mantle";
import { loadCatalog, loadImages } from "zealous-mantle/node";

/** The folder of the demo catalog, from the root of the project. */
export const demoFolder = "demo/saltmarsh";

/** The demo catalog, as a game would load it. */
export const demo: Catalog = await loadCatalog(demoFolder);

const kept = new Map<string, Image>();

/** The pictures that looks need, each read once for all tests of a file. */
export async function picturesOf(...looks: readonly Look[]): Promise<Images> {
  const missing = looks.map((look) => ({
    ...look,
    layers: look.layers.filter(({ images }) => images.some((image) => !kept.has(image))),
  }));
  for (const [path, image] of await loadImages(demoFolder, missing)) kept.set(path, image);
  const paths = new Set(looks.flatMap(({ layers }) => layers.flatMap(({ images }) => images)));
  return new Map([...kept].filter(([path]) => paths.has(path)));
}

/** How a character looks, and the pictures it needs. */
export async function dressed(character: Character): Promise<{ look: Look; images: Images }> {
  const look = resolveLook(demo, character);
  return { look, images: await picturesOf(look) };
}

import { type Catalog, type Character, type Images, type Look, resolveLook } from "zealous-mantle";
import { loadCatalog, loadImages } from "zealous-mantle/node";

/** The folder of the demo catalog, from the root of the project. */
export const demoFolder = "demo/saltmarsh";

/** The demo catalog, as a game would load it. */
export const demo: Catalog = await loadCatalog(demoFolder);

/** How a character looks, and the pictures it needs. */
export async function dressed(character: Character): Promise<{ look: Look; images: Images }> {
  const look = resolveLook(demo, character);
  return { look, images: await loadImages(demoFolder, [look]) };
}

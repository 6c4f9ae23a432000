import type { ImageLoader } from "../browser/image-loader.ts";
import { MantleError } from "../core/base/problem.ts";
import type { Look, LookLayer } from "../core/look/look.ts";
import type { Images } from "../core/raster/image.ts";

/** Whether all pictures of these layers are there. */
export function areLoaded(images: Images, layers: readonly LookLayer[]): boolean {
  return layers.every((layer) => layer.images.every((image) => images.has(image)));
}

/** Fetches the pictures of looks. False where one cannot be had: the stage reports which, and the caller shows nothing. */
export async function loadLooks(loader: ImageLoader, looks: readonly Look[]): Promise<boolean> {
  try {
    await loader.load(...looks);
    return true;
  } catch (error) {
    if (error instanceof MantleError) return false;
    throw error;
  }
}

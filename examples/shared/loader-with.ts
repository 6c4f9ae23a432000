import type { Image } from "zealous-mantle";
import type { FreshImageLoader } from "zealous-mantle/browser";

/** A loader that has some pictures of its own besides, by their paths. */
export function loaderWith(loader: FreshImageLoader, own: ReadonlyMap<string, Image>): FreshImageLoader {
  const images = new Map<string, Image>([...loader.images, ...own]);
  const fetchAll = async (...paths: readonly string[]) => {
    const missing = paths.filter((path) => !own.has(path));
    await loader.fetch(...missing);
    for (const path of missing) {
      const image = loader.images.get(path);
      if (image !== undefined) images.set(path, image);
    }
  };
  return {
    images,
    get version() {
      return loader.version;
    },
    fetch: fetchAll,
    load: (...looks) => fetchAll(...looks.flatMap(({ layers }) => layers.flatMap((layer) => layer.images))),
    refresh: () => loader.refresh(),
  };
}

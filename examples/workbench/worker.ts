import { pairwiseCover, surveyArt } from "zealous-mantle/authoring";
import { fetchCatalog, listServed } from "zealous-mantle/browser";
import { decodePng } from "zealous-mantle/raster";
import type { Asked, Told } from "./tasks.ts";

/** Does what takes seconds beside the page. */
self.onmessage = async ({ data: { task, url } }: MessageEvent<Asked>) => {
  const tell = (told: Told) => self.postMessage(told);
  const { catalog } = await fetchCatalog(url, await listServed(url));
  if (task === "pairs") {
    const { characters, lowerBound, pairs, apart } = pairwiseCover(catalog);
    tell({ task, characters, lowerBound, pairs, apart });
    return;
  }
  const load = async (path: string) => {
    const response = await fetch(new URL(path, url));
    return response.ok ? decodePng(new Uint8Array(await response.arrayBuffer())) : undefined;
  };
  const problems = await surveyArt(catalog, load, {
    draw: true,
    onProgress: ({ done, total }) => tell({ task: "progress", done, total }),
  });
  tell({ task, problems });
};

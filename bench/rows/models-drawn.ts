import { readdir, readFile } from "node:fs/promises";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { openBrowser } from "../../scripts/browser.ts";
import { bundlePage } from "../../scripts/bundle-page.ts";
import { agree, type Pair, type Row } from "../measure.ts";
import type { Given } from "../models-page.ts";

const demo = fileURLToPath(new URL("../../demo/saltmarsh-3d", import.meta.url));

/** The demo in three dimensions, for a page. */
async function given(): Promise<Given> {
  const files = await readdir(demo, { recursive: true });
  const json = await Promise.all(
    files
      .filter((file) => file.endsWith(".json"))
      .map(async (file) => [file, JSON.parse(await readFile(join(demo, file), "utf8"))] as const),
  );
  const { "catalog.json": main, ...included } = Object.fromEntries(json);
  const models = await Promise.all(
    files
      .filter((file) => file.endsWith(".glb"))
      .map(async (file) => [file, await readFile(join(demo, file), "base64")] as const),
  );
  return { main, included, models: Object.fromEntries(models) };
}

async function inPage<Measured>(name: string): Promise<Measured> {
  const script = await bundlePage(fileURLToPath(new URL("../models-page.ts", import.meta.url)));
  const browser = await openBrowser();
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.addScriptTag({ content: script });
    const data = await given();
    return await page.evaluate(([what, all]) => Reflect.get(window, what)(all), [name, data] as const);
  } finally {
    await browser.close();
  }
}

/** A picture of a figure without a graphics card, and with one that is software too. */
export const raster3d: Row = {
  name: "raster-3d",
  work: "drawModel of a figure in its ramps, 256×320 pixels",
  against: "three on Chromium's software GL, the same picture read back",
  unit: "ms",
  goal: { atLeast: 3 },
  async measure() {
    const measured = await inPage<Pair & { off: { outline: number; colors: number } }>("measureRaster");
    const { outline, colors } = measured.off;
    agree(outline < 0.01, `${(outline * 100).toFixed(1)} % of the outline differs`);
    agree(colors < 0.01, `${(colors * 100).toFixed(1)} % of the colors differ`);
    return measured;
  },
};

interface Crowd extends Pair {
  /** The share of pixels that differ. */
  readonly off: number;
  readonly memory: Pair;
}

let crowd: Promise<Crowd> | undefined;

async function crowdOnce(): Promise<Crowd> {
  crowd ??= inPage<Crowd>("measureCrowd3d");
  const measured = await crowd;
  agree(measured.off < 0.005, `${(measured.off * 100).toFixed(2)} % of the pixels differ`);
  return measured;
}

/** Many figures that share what they can. */
export const crowd3d: Row = {
  name: "crowd-3d",
  work: "a frame of 100 figures of 100 looks in three, in Chromium",
  against: "100 models, each assembled of its look",
  unit: "ms",
  goal: { atMost: 1.1 },
  measure: crowdOnce,
};

export const crowd3dMemory: Row = {
  name: "crowd-3d-memory",
  work: "geometry of 100 figures of 100 looks",
  against: "geometry of 100 models, each assembled of its look",
  unit: "MB",
  goal: { atMost: 0.5 },
  measure: async () => (await crowdOnce()).memory,
};

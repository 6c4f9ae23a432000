/** Draws all art of the demo catalog and of the pack that is laid over it: `npm run art`. The same program always draws the same bytes. */
import { execFile } from "node:child_process";
import { mkdir, readdir, rm, writeFile } from "node:fs/promises";
import { availableParallelism } from "node:os";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { parseArgs, promisify } from "node:util";
import type { Image } from "zealous-mantle";
import { cachePoints } from "zealous-mantle/node";
import { encodePng } from "zealous-mantle/raster";
import { mouth } from "./faces.ts";
import { builds } from "./figure.ts";
import { frostFair } from "./frost-fair.ts";
import { blankSheet, cellsOf, drawBody, drawGlow, drawMarkers, drawRipples, drawSheets, isStill } from "./sheets.ts";
import { wardrobe } from "./wardrobe.ts";

/** Where art is drawn, by what is drawn there. */
const places = [
  { folder: fileURLToPath(new URL("../saltmarsh/art", import.meta.url)), arts: wardrobe },
  { folder: fileURLToPath(new URL("../packs/frost-fair/art", import.meta.url)), arts: frostFair },
];
const [{ folder } = { folder: "" }] = places;
const started = performance.now();
const { values, positionals: only } = parseArgs({
  allowPositionals: true,
  options: { share: { type: "string" }, of: { type: "string", default: "1" } },
});
const [share, shares] = [Number(values.share ?? 0), Number(values.of)];
const mine = places.flatMap(({ folder: into, arts }) => arts.map((art) => ({ into, art })));
const chosen = mine.filter(({ art: { id } }, at) => (only.length > 0 ? only.includes(id) : at % shares === share));

if (only.length === 0 && values.share === undefined) await drawInShares(availableParallelism());
else {
  const written = await drawAll();
  // Whoever asked reads what was written from here.
  console.log(JSON.stringify(written));
}

/** Draws everything, each share in a process of its own, and removes pictures that nothing draws any more. */
async function drawInShares(count: number): Promise<void> {
  const shares = Array.from({ length: count }, async (_, each) => {
    const args = [...process.execArgv, fileURLToPath(import.meta.url), "--share", String(each), "--of", String(count)];
    const { stdout } = await promisify(execFile)(process.execPath, args, { maxBuffer: 1e8 });
    const written: readonly string[] = JSON.parse(stdout);
    return written;
  });
  const written = new Set((await Promise.all(shares)).flat());
  for (const { folder: into } of places)
    for (const file of await readdir(into, { recursive: true }))
      if (file.endsWith(".png") && !written.has(join(into, file))) await rm(join(into, file));
  console.log(`${written.size} pictures, ${((performance.now() - started) / 1000).toFixed(1)} s`);
}

async function drawAll(): Promise<readonly string[]> {
  const written: string[] = [];
  const write = async (name: string, image: Image, into = folder) => {
    const path = join(into, `${name}.png`);
    await mkdir(dirname(path), { recursive: true });
    await writeFile(path, encodePng(image));
    written.push(path);
  };
  const bodies = builds.map((build) => ({ build, cells: cellsOf(build) }));
  if (share === 0 && (only.length === 0 || only.includes("body"))) {
    for (const { build, cells } of bodies) {
      const { body, shadow } = drawBody(cells, mouth);
      await write(`${build.id}/body`, body);
      await write(`${build.id}/shadow`, shadow);
      await write(`${build.id}/points`, drawMarkers(cells));
      await cachePoints(dirname(folder), `art/${build.id}/points.png`);
    }
    await write("lantern-glow", drawGlow());
    await write("ripples", drawRipples());
  }
  for (const { art, into } of chosen) {
    const wearers = bodies.filter(({ build }) => !("builds" in art) || art.builds?.includes(build.id) !== false);
    const drawn = wearers.map(({ build, cells }) => ({ build, sheets: drawSheets(art, cells) }));
    // A layer is one entry for all its bodies, so each of them has the picture, blank where it shows nothing.
    for (const name of new Set(drawn.flatMap(({ sheets }) => [...sheets.keys()]))) {
      for (const { build, sheets } of drawn)
        await write(`${build.id}/${name}`, sheets.get(name) ?? blankSheet(isStill(art)), into);
    }
  }
  return written;
}

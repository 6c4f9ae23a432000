/** Draws all art of the demo catalog: `npm run art`. The same program always draws the same bytes. */
import { mkdir, readdir, rm, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { encodePng, type Image } from "zealous-mantle";
import type { Art } from "./art.ts";
import { backArt, handArt } from "./carried.ts";
import { bootArt, chainArt, coatArt, gloveArt, shirtArt, trouserArt, vestArt } from "./clothes.ts";
import { browStamps, eyeStamps, markStamps, mouth } from "./faces.ts";
import { builds } from "./figure.ts";
import { beardArt, hairArt } from "./hair.ts";
import { hatArt, neckArt } from "./hats.ts";
import { blankSheet, cellsOf, drawBody, drawSheets } from "./sheets.ts";

const wardrobe: readonly Art[] = [
  ...hairArt,
  ...browStamps,
  ...eyeStamps,
  ...markStamps,
  ...beardArt,
  ...hatArt,
  ...neckArt,
  ...shirtArt,
  ...vestArt,
  ...chainArt,
  ...coatArt,
  ...trouserArt,
  ...bootArt,
  ...gloveArt,
  ...backArt,
  ...handArt,
];

const folder = fileURLToPath(new URL("../saltmarsh/art", import.meta.url));
const only = process.argv.slice(2);
const started = performance.now();
const written = new Set<string>();

const bodies = builds.map((build) => ({ build, cells: cellsOf(build) }));
for (const { build, cells } of bodies) {
  const { body, shadow } = drawBody(cells, mouth);
  await write(build.id, "body", body);
  await write(build.id, "shadow", shadow);
}
for (const art of wardrobe) {
  if (only.length > 0 && !only.includes(art.id)) continue;
  const wearers = bodies.filter(({ build }) => !("builds" in art) || art.builds?.includes(build.id) !== false);
  const drawn = wearers.map(({ build, cells }) => ({ build, sheets: drawSheets(art, cells) }));
  // A layer is one entry for all its bodies, so each of them has the picture, blank where it shows nothing.
  for (const name of new Set(drawn.flatMap(({ sheets }) => [...sheets.keys()]))) {
    for (const { build, sheets } of drawn) await write(build.id, name, sheets.get(name) ?? blankSheet());
  }
}
if (only.length === 0) {
  for (const file of await readdir(folder, { recursive: true })) {
    if (file.endsWith(".png") && !written.has(file.replaceAll("\\", "/"))) await rm(join(folder, file));
  }
}
console.log(`${written.size} pictures in ${folder}, ${((performance.now() - started) / 1000).toFixed(1)} s`);

async function write(build: string, name: string, image: Image): Promise<void> {
  await mkdir(join(folder, build), { recursive: true });
  await writeFile(join(folder, build, `${name}.png`), encodePng(image));
  written.add(`${build}/${name}.png`);
}

import { mkdir, mkdtemp, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Image } from "zealous-mantle";
import { createImage, encodePng } from "zealous-mantle/raster";
import { appearance, gear, smallSource } from "./small-catalog.ts";

const bodies = ["reed", "oak"];
const slots = ["hair", "hat", "coat", "boots"];
const partsOfSlot = 12;

/** A catalog folder with many small pictures, each drawn for each body: what the demo has, in a fiftieth of its pixels. */
export async function writeManyParts(): Promise<string> {
  const folder = await mkdtemp(join(tmpdir(), "mantle-many-"));
  const parts = slots.flatMap((slot, row) =>
    Array.from({ length: partsOfSlot }, (_, number) => {
      const layers = [{ image: `art/{body}/${slot}-${number}.png`, depth: 10 + row }];
      return [`${slot}-${number}`, { slot, layers, ...(number % 3 === 0 ? { tags: ["odd"] } : {}) }] as const;
    }),
  );
  const source = smallSource({
    rigs: {
      rig: {
        frame: { width: 16, height: 16 },
        origin: [8, 16],
        facings: ["south", "west", { id: "east", mirror: "west" }],
        animations: { idle: { frames: 2, fps: 2 }, walk: { frames: 4, fps: 8 } },
      },
    },
    slots: { hair: appearance, hat: gear, coat: gear, boots: gear },
    bodies: Object.fromEntries(
      bodies.map((id) => [id, { rig: "rig", art: [{ image: "art/{body}/body.png", depth: 0 }] }]),
    ),
    parts: Object.fromEntries(parts),
  });
  await writeFile(join(folder, "catalog.json"), JSON.stringify(source));
  for (const [number, body] of bodies.entries()) {
    await mkdir(join(folder, "art", body), { recursive: true });
    for (const [at, name] of ["body", ...parts.map(([id]) => id)].entries())
      await writeFile(join(folder, "art", body, `${name}.png`), encodePng(drawnSheet(at + 100 * number)));
  }
  return folder;
}

/** Four cells by four of a block that is another in each: its place, size and colors come from a number. */
function drawnSheet(number: number): Image {
  const image = createImage(64, 64);
  for (let cell = 0; cell < 16; cell += 1) {
    // Two rows of idling, with two frames each; a bundle keeps no other.
    if (cell < 8 && cell % 4 >= 2) continue;
    const [left, top] = [(cell % 4) * 16 + 1 + (number % 5), Math.floor(cell / 4) * 16 + 1 + (number % 7)];
    for (let y = 0; y < 6; y += 1)
      for (let x = 0; x < 8; x += 1) {
        const color = [(number * 37 + x * 20) % 256, (number * 11 + y * 30) % 256, (cell * 15) % 256, 255];
        image.data.set(color, ((top + y) * 64 + left + x) * 4);
      }
  }
  return image;
}

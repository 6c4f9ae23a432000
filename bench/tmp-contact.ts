import { writeFileSync } from "node:fs";
import {
  applyEdit,
  composeFrame,
  createCharacter,
  createImage,
  encodePng,
  enlargeImage,
  resolveLook,
} from "zealous-mantle";
import { loadCatalog, loadImages } from "zealous-mantle/node";

const catalog = await loadCatalog("demo/saltmarsh");
const anims: [string, number][] = [
  ["idle", 2],
  ["walk", 1],
  ["walk", 3],
  ["row", 0],
  ["row", 3],
  ["wade", 2],
  ["hail", 2],
  ["trudge", 5],
];
const facings = ["south", "west", "north", "east"];
for (const [bi, body] of ["reed", "oak", "reed-young", "oak-young"].entries())
  for (const outfit of catalog.outfits.keys()) {
    let c = createCharacter(catalog, { body, name: "x" });
    for (const e of [{ wear: ["braid", "crop", "pigtails", "curls"][bi]! }, { dress: outfit }]) {
      const r = applyEdit(catalog, c, e);
      if (r.ok) c = r.character;
      else
        console.log(
          body,
          outfit,
          r.problems.map((p) => p.because),
        );
    }
    const look = resolveLook(catalog, c);
    const images = await loadImages("demo/saltmarsh", [look]);
    const sheet = createImage(anims.length * 64, 4 * 80);
    new Uint32Array(sheet.data.buffer).fill(0xffdcecf4);
    for (const [x, [animation, f]] of anims.entries())
      for (const [y, facing] of facings.entries()) {
        const fr = composeFrame(look, images, {
          animation,
          facing,
          time: f / catalog.rigs.get("courier")?.animations.get(animation)?.fps,
        });
        for (let i = 0; i < 80; i++)
          for (let j = 0; j < 64; j++) {
            const a = fr.data[(i * 64 + j) * 4 + 3]!;
            if (a === 255)
              sheet.data.set(
                fr.data.subarray((i * 64 + j) * 4, (i * 64 + j) * 4 + 4),
                ((y * 80 + i) * sheet.width + x * 64 + j) * 4,
              );
          }
      }
    writeFileSync(`/tmp/contact-${body}-${outfit}.png`, encodePng(enlargeImage(sheet, 3)));
  }

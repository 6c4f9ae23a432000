import { applyEdit, composeFrame, createCharacter, type Edit, type Image, resolveLook } from "zealous-mantle";
import { loadCatalog, loadImages } from "zealous-mantle/node";
import { createImage, enlargeImage, pasteImage } from "zealous-mantle/raster";

const place = { folder: "demo/saltmarsh", packs: ["demo/packs/frost-fair"] };
const scale = 4;
const width = 56;

const people: readonly (readonly [body: string, hair: string, ramp: string, facing: string, edits: readonly Edit[]])[] =
  [
    ["reed", "braid", "frost-fair.snow", "south", [{ paint: "cloth", ramp: "indigo" }]],
    ["oak", "curls", "frost-fair.fox", "south", [{ paint: "cloth", ramp: "frost-fair.snow" }]],
    ["reed-young", "pigtails", "frost-fair.sable", "west", [{ paint: "cloth", ramp: "plum" }]],
    ["oak-young", "bob", "frost-fair.snow", "south", [{ paint: "cloth", ramp: "moss" }, { wear: "long-coat" }]],
    ["oak", "crop", "frost-fair.sable", "north", [{ paint: "cloth", ramp: "teal" }]],
  ];

/** The pack of the demo on five couriers, on nothing. */
export async function packPicture(): Promise<Image> {
  const catalog = await loadCatalog(place);
  const picture = createImage(people.length * width * scale, 80 * scale);
  for (const [at, [body, hair, ramp, facing, edits]] of people.entries()) {
    const wanted: readonly Edit[] = [
      { wear: hair },
      { dress: "frost-fair.skater" },
      { paint: "frost-fair.fur", ramp },
      ...edits,
    ];
    const dressed = wanted.reduce(
      (before, edit) => applyEdit(catalog, before, edit).character,
      createCharacter(catalog, { body, id: body }),
    );
    const look = resolveLook(catalog, dressed);
    const frame = composeFrame(look, await loadImages(place, [look]), { animation: "idle", facing, time: 0 });
    pasteImage(picture, enlargeImage(frame, scale), (at * width - (64 - width) / 2) * scale, 0);
  }
  return picture;
}

import {
  applyEdit,
  type Catalog,
  type Character,
  composeFrame,
  createCharacter,
  distinguish,
  drawCrop,
  drawIcon,
  type Edit,
  type Image,
  iconLook,
  type Look,
  type LookOptions,
  resolveLook,
} from "zealous-mantle";
import { loadImages } from "zealous-mantle/node";
import { animationOf, createImage, enlargeImage, pasteImage, timedFrames } from "zealous-mantle/raster";

const step = 205;
const paper = [0xf4, 0xec, 0xdc] as const;

/** One character from all sides, in every animation, color, age and form, with its portrait, token and icons: 1280×800 on paper. */
export async function looksPicture(catalog: Catalog, folder: string): Promise<Image> {
  const picture = createImage(1280, 800);
  for (let at = 0; at < picture.data.length; at += 4) picture.data.set([...paper, 255], at);
  const place = (image: Image, scale: number, x: number, y: number) => lay(picture, enlargeImage(image, scale), x, y);
  const show = async (look: Look, animation: string, facing: string, frame: number, x: number, y: number) => {
    const images = await loadImages(folder, [look]);
    const time = timedFrames(animationOf(look, animation))[frame]?.time ?? 0;
    place(composeFrame(look, images, { animation, facing, time }), 3, x, y);
  };
  const look = (character: Character, options?: LookOptions) => resolveLook(catalog, character, options);
  const wren = dressed(catalog, "reed", { wear: "braid" }, { dress: "storm-watch" }, { wear: "satchel" });
  const plain = look(wren);
  const images = await loadImages(folder, [plain]);

  for (const [at, facing] of ["south", "west", "north", "east"].entries())
    await show(plain, "idle", facing, 0, 10 + at * step, 20);
  place(drawCrop(plain, images, "portrait"), 5, 850, 20);
  place(drawCrop(plain, images, "token"), 5, 1060, 40);
  for (const [at, part] of ["storm-hat", "sea-boots", "satchel", "lantern"].entries()) {
    const icon = iconLook(catalog, wren, part);
    place(drawIcon(icon, await loadImages(folder, [icon]), part), 2, 850 + at * 104, 212);
  }
  const motions = [
    ["walk", "west", 1],
    ["row", "west", 0],
    ["wade", "south", 2],
    ["hail", "south", 2],
    ["trudge", "west", 4],
  ] as const;
  for (const [at, [animation, facing, frame]] of motions.entries())
    await show(plain, animation, facing, frame, 10 + at * step, 285);
  await show(look(wren, { form: "wading" }), "walk", "south", 3, 10 + 5 * step, 285);

  const ferry = ["reed", "oak", "reed-young", "oak-young"].map((body, at) =>
    dressed(catalog, body, { wear: ["crop", "curls", "pigtails", "bob"][at] ?? "crop" }, { dress: "ferry-hand" }),
  );
  const { ramps } = distinguish(catalog, ferry, { channel: "cloth" });
  for (const [at, hand] of ferry.entries()) {
    const painted = applyEdit(catalog, hand, { paint: "cloth", ramp: ramps[at] ?? "" }).character;
    await show(look(painted), "idle", "south", 0, 10 + at * step, 545);
  }
  const keeper = dressed(catalog, "oak", { wear: "curls" }, { dress: "lamp-festival" }, { wear: "lantern" });
  await show(look(keeper), "walk", "south", 1, 10 + 4 * step, 545);
  await show(look(keeper, { form: "lamplit" }), "walk", "south", 1, 10 + 5 * step, 545);
  return picture;
}

function dressed(catalog: Catalog, body: string, ...edits: readonly Edit[]): Character {
  return edits.reduce<Character>(
    (character, edit) => {
      const result = applyEdit(catalog, character, edit);
      if (!result.ok) throw new Error(result.problems.map(({ code }) => code).join(" "));
      return result.character;
    },
    createCharacter(catalog, { body }),
  );
}

/** Lays a picture over another, with its translucent pixels mixed in. */
function lay(under: Image, over: Image, x: number, y: number): void {
  const mixed = createImage(over.width, over.height);
  for (let row = 0; row < over.height; row += 1) {
    for (let column = 0; column < over.width; column += 1) {
      const at = (row * over.width + column) * 4;
      const below = ((y + row) * under.width + x + column) * 4;
      const share = (over.data[at + 3] ?? 0) / 255;
      const mix = (byte: number) =>
        Math.round((over.data[at + byte] ?? 0) * share + (under.data[below + byte] ?? 0) * (1 - share));
      mixed.data.set([mix(0), mix(1), mix(2), 255], at);
    }
  }
  pasteImage(under, mixed, x, y);
}

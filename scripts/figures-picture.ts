import { applyEdit, type Catalog, createCharacter, type Edit, type Image, resolveLook } from "zealous-mantle";
import { drawModel, prepareModel } from "zealous-mantle/model";
import { loadModels } from "zealous-mantle/node";
import { createImage, pasteImage } from "zealous-mantle/raster";

/** A figure of the picture: its build, what it wears, and how it stands. */
type Shown = readonly [body: string, worn: readonly Edit[], animation: string, facing: string, time: number];

const dress = (outfit: string, ...more: readonly Edit[]): readonly Edit[] => [{ dress: outfit }, ...more];

const shown: readonly Shown[] = [
  ["reed", dress("storm-watch", { wear: "braid" }, { wear: "satchel" }), "idle", "south", 0],
  ["oak", dress("ferry-hand", { wear: "beard-full" }, { paint: "skin", ramp: "umber" }), "walk", "south", 0.6],
  ["reed", dress("lamp-festival", { wear: "pigtails" }, { paint: "hair", ramp: "rust" }), "walk", "east", 0.3],
  [
    "oak",
    dress("rest-day", { wear: "crop" }, { wear: "kerchief" }, { paint: "skin", ramp: "peat" }),
    "hail",
    "south",
    0.4,
  ],
  ["reed-young", dress("storm-watch", { wear: "bob" }, { paint: "oilcloth", ramp: "indigo" }), "walk", "south", 0.1],
  [
    "oak-young",
    [{ wear: "curls" }, { wear: "jersey" }, { wear: "mud-shorts" }, { wear: "mud-boots" }],
    "idle",
    "west",
    0,
  ],
  [
    "reed",
    [{ wear: "mane" }, { wear: "cape" }, { wear: "long-trousers" }, { wear: "sea-boots" }],
    "walk",
    "north",
    0.5,
  ],
  [
    "oak",
    [
      { wear: "pilot-cap" },
      { wear: "mustache" },
      { wear: "waistcoat" },
      { wear: "watch-chain" },
      { wear: "mail-pack" },
    ],
    "walk",
    "west",
    0.2,
  ],
  [
    "reed",
    [{ wear: "topknot" }, { wear: "apron" }, { wear: "wrist-wraps" }, { paint: "hair", ramp: "kelp" }],
    "idle",
    "east",
    0,
  ],
  ["reed", dress("storm-watch", { wear: "hood-up" }, { paint: "oilcloth", ramp: "madder" }), "wade", "west", 0.4],
];

const [step, rise, scale] = [250, 390, 5] as const;

/** Couriers in three dimensions, drawn without a graphics card: 1280×800 on paper. */
export async function figuresPicture(catalog: Catalog, folder: string): Promise<Image> {
  const picture = createImage(1280, 800);
  for (let at = 0; at < picture.data.length; at += 4) picture.data.set([0xf4, 0xec, 0xdc, 255], at);
  for (const [at, [body, edits, animation, facing, time]] of shown.entries()) {
    let character = createCharacter(catalog, { body });
    for (const edit of edits) {
      const result = applyEdit(catalog, character, edit);
      if (!result.ok) throw new Error(`${JSON.stringify(edit)}: ${result.problems.map(({ code }) => code).join()}`);
      character = result.character;
    }
    const look = resolveLook(catalog, character);
    const model = await prepareModel(look, await loadModels(folder, [look]));
    const figure = drawModel(model, { animation, facing, time }, { scale });
    lay(picture, figure, 15 + (at % 5) * step - 35, Math.floor(at / 5) * rise + 5);
  }
  return picture;
}

/** Lays a picture over another, whose pixels are opaque. */
function lay(target: Image, image: Image, left: number, top: number): void {
  const under = createImage(image.width, image.height);
  pasteImage(under, target, -left, -top);
  for (let at = 0; at < image.data.length; at += 4) {
    const share = (image.data[at + 3] ?? 0) / 255;
    for (let channel = 0; channel < 3; channel += 1)
      under.data[at + channel] =
        (image.data[at + channel] ?? 0) * share + (under.data[at + channel] ?? 0) * (1 - share);
    under.data[at + 3] = 255;
  }
  // Only what lies in the picture is laid back.
  pasteImage(target, under, left, top);
}

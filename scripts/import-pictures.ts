/** Draws the pictures of `docs/art.md` from the demo data: the kinds of files that artists hand over. `npm run shots` calls it. */
import { mkdir, readFile, writeFile } from "node:fs/promises";
import { fileURLToPath } from "node:url";
import {
  applyEdit,
  type Catalog,
  composeFrame,
  createCharacter,
  createFromPreset,
  type Image,
  readCatalog,
  resolveLook,
} from "zealous-mantle";
import { contactSheet, readSheet, surveyArt } from "zealous-mantle/authoring";
import { assembleModel, modelSheet, planModel, readModel } from "zealous-mantle/model";
import { loadCatalog, loadImages, loadModels } from "zealous-mantle/node";
import {
  bakeSheet,
  createImage,
  cropImage,
  decodePng,
  encodePng,
  enlargeImage,
  pasteImage,
} from "zealous-mantle/raster";
import { blendPicture } from "../src/core/raster/blend-picture.ts";
import { drawText } from "../src/core/raster/pixel-font.ts";

const paper = [0xf4, 0xec, 0xdc, 255] as const;
const cellColor = [0xe7, 0xdc, 0xc4, 255] as const;
const ink = 0x16323a;

/** Draws all of them into a folder. */
export async function drawImportPictures(catalog: Catalog, folder: string): Promise<void> {
  await mkdir(folder, { recursive: true });
  const draw = await drawerOf(catalog);
  const save = (name: string, image: Image) => writeFile(`${folder}${name}.png`, encodePng(image));
  await save("sheet", sheet(draw));
  await save("strip", strip(draw));
  await save("files", files(draw));
  await save("packed", await packed(catalog));
  await save("figures", figures(draw));
  await save("drawing", drawing(draw));
  await save("plan", await plan(catalog));
  await save("figure-plan", await figurePlan());
  await save("ringed", await ringed(catalog));
}

/** What `mantle check --pictures` draws of a speck that somebody left beside a sandal. */
async function ringed(catalog: Catalog): Promise<Image> {
  const speck = filled(3, 2, [40, 30, 20, 255]);
  const load = async (path: string) => {
    const image = decodePng(await readFile(`demo/saltmarsh/${path}`));
    if (path.endsWith("/sandals.png")) pasteImage(image, speck, 4 * 64 + 8, 3 * 80 + 60);
    return image;
  };
  const [problem] = await surveyArt(catalog, load, { parts: new Set(["sandals"]), draw: true });
  if (problem?.seen === undefined) throw new Error("The speck was not found");
  return problem.seen;
}

/** The contact sheet of a plan, as `mantle import` draws it, of some animations. */
async function plan(catalog: Catalog): Promise<Image> {
  const rig = catalog.rigs.get("courier");
  if (rig === undefined) throw new Error("The demo has no such rig");
  const body = resolveLook(catalog, createCharacter(catalog, { body: "reed" }));
  const look = { ...body, layers: body.layers.filter(({ part }) => part === undefined) };
  const found = readSheet("Breeches.png", decodePng(await readFile("demo/saltmarsh/art/reed/breeches.png")), rig);
  const shown = ["idle", "walk", "row"];
  const parts = found.parts.map((part) => ({
    name: part.name,
    layers: part.layers.map((layer) => ({
      ...layer,
      frames: layer.frames.filter(({ animation = "" }) => shown.includes(animation)),
    })),
  }));
  const sheetImage = contactSheet(parts, "west", {
    rig,
    on: { look, images: await loadImages("demo/saltmarsh", [look]) },
  });
  if (sheetImage === undefined) throw new Error("Nothing is drawn of it");
  return sheetImage;
}

/** The contact sheet of a figure that is to be taken apart: a courier of the demo, of whom some meshes are named by hand. */
async function figurePlan(): Promise<Image> {
  const folder = "demo/saltmarsh-3d";
  const demo = await loadCatalog(folder);
  const look = resolveLook(demo, createFromPreset(demo, "first-watch"));
  const { model } = await readModel("courier.glb", (await assembleModel(look, await loadModels(folder, [look]))).bytes);
  if (model === undefined) throw new Error("The courier cannot be read");
  const slots = Object.fromEntries(["hat", "hair", "coat", "boots"].map((id) => [id, { kind: "gear" }]));
  const { catalog } = readCatalog({ mantle: "catalog/1", id: "harbor", version: "1", slots });
  if (catalog === undefined) throw new Error("The catalog cannot be read");
  const pieces = { mouth: { region: "mouth" }, braid: { part: "braid", slot: "hair" }, "lantern-right": null };
  const coat = { oilskin: { part: "oilskin", slot: "coat" } };
  return modelSheet(model, await planModel(catalog, model, { choices: { ...pieces, ...coat } }));
}

/** One part in one frame, whole; the body when no part is named. */
type Draw = (part: string | undefined, animation: string, facing: string, time: number) => Image;

async function drawerOf(catalog: Catalog): Promise<Draw> {
  const bare = createCharacter(catalog, { body: "reed" });
  const parts = ["sea-boots", "oilskin", "storm-hat", "reed-cap", "wool-cap", "bandana"].filter((id) =>
    catalog.parts.has(id),
  );
  const looks = new Map(
    [undefined, ...parts].map((id) => {
      const look = resolveLook(catalog, id === undefined ? bare : applyEdit(catalog, bare, { wear: id }).character);
      return [id, { ...look, layers: look.layers.filter(({ part }) => part === id) }] as const;
    }),
  );
  const images = await loadImages("demo/saltmarsh", [...looks.values()]);
  return (part, animation, facing, time) => {
    const look = looks.get(part);
    if (look === undefined) throw new Error(`The demo has no ${part}`);
    return composeFrame(look, images, { animation, facing, time });
  };
}

const facings = ["south", "west", "north"] as const;

function page(width: number, height: number): Image {
  return filled(width, height, paper);
}

function filled(width: number, height: number, color: readonly number[]): Image {
  const image = createImage(width, height);
  for (let at = 0; at < width * height; at += 1) image.data.set(color, at * 4);
  return image;
}

function label(image: Image, text: string, x: number, y: number, size = 2): void {
  drawText(image, text, { x, y, color: ink, size });
}

/** A picture on a plain ground, enlarged. */
function place(on: Image, image: Image, x: number, y: number, scale: number): void {
  pasteImage(on, filled(image.width * scale, image.height * scale, cellColor), x, y);
  blendPicture(on, enlargeImage(image, scale), x, y);
}

/** Rows of boots walking, in each facing. */
function sheet(draw: Draw): Image {
  const image = page(8 * 80 + 120, 3 * 72 + 40);
  for (const [row, facing] of facings.entries()) {
    label(image, facing, 16, 20 + row * 72 + 26);
    for (let frame = 0; frame < 8; frame += 1) {
      const boots = cropImage(draw("sea-boots", "walk", facing, frame / 10), { x: 12, y: 46, width: 38, height: 33 });
      place(image, boots, 100 + frame * 80, 20 + row * 72, 2);
    }
  }
  return image;
}

/** A hat in each row. */
function strip(draw: Draw): Image {
  const hats = ["storm-hat", "reed-cap", "wool-cap", "bandana"] as const;
  const image = page(3 * 140 + 240, hats.length * 92 + 32);
  for (const [row, hat] of hats.entries()) {
    label(image, `row ${row + 1}`, 16, 16 + row * 92 + 36);
    for (const [column, facing] of facings.entries())
      place(
        image,
        cropImage(draw(hat, "idle", facing, 0), { x: 10, y: 6, width: 44, height: 29 }),
        110 + column * 140,
        16 + row * 92,
        3,
      );
  }
  return image;
}

function files(draw: Draw): Image {
  const image = page(760, 190);
  for (let frame = 0; frame < 4; frame += 1) {
    const x = 20 + frame * 184;
    place(
      image,
      cropImage(draw("sea-boots", "walk", "west", frame / 10), { x: 12, y: 46, width: 38, height: 33 }),
      x + 20,
      24,
      3,
    );
    label(image, `walk_w_00${frame + 1}.png`, x + 4, 148);
  }
  return image;
}

async function packed(catalog: Catalog): Promise<Image> {
  const look = resolveLook(
    catalog,
    applyEdit(catalog, createCharacter(catalog, { body: "reed" }), { wear: "sea-boots" }).character,
  );
  const alone = { ...look, layers: look.layers.filter(({ part }) => part === "sea-boots") };
  const { image: sheetImage, table } = bakeSheet(alone, await loadImages("demo/saltmarsh", [alone]), {
    animations: ["walk"],
    packed: true,
  });
  const image = page(760, 300);
  place(image, sheetImage, 20, 20, Math.max(1, Math.floor(260 / Math.max(sheetImage.width, sheetImage.height))));
  for (const [row, { animation, facing, frame, rect }] of table.frames.slice(0, 12).entries())
    label(image, `${animation}/${facing}_${frame}: ${rect.join(" ")}`, 350, 24 + row * 21);
  return image;
}

function figures(draw: Draw): Image {
  const image = page(760, 180);
  for (const [at, hat] of ["storm-hat", "wool-cap", "reed-cap", "bandana"].entries()) {
    const picture = cropImage(draw(hat, "idle", "west", 0), { x: 10, y: 6, width: 44, height: 29 });
    blendPicture(image, enlargeImage(picture, 4), 10 + at * 184, 22 + (at % 2) * 20);
  }
  return image;
}

/** The layers of a drawing, one by one, and over one another. */
function drawing(draw: Draw): Image {
  const image = page(760, 240);
  const layers = [undefined, "oilskin", "storm-hat"] as const;
  const names = ["body", "coat / oilskin", "hat / storm hat"];
  for (const [at, part] of layers.entries()) {
    place(image, draw(part, "idle", "south", 0), 24 + at * 180, 20, 2);
    label(image, names[at] ?? "", 24 + at * 180, 196);
    blendPicture(image, enlargeImage(draw(part, "idle", "south", 0), 2), 24 + 3 * 180, 20);
  }
  label(image, "all of them", 24 + 3 * 180, 196);
  return image;
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const { loadCatalog } = await import("zealous-mantle/node");
  await drawImportPictures(await loadCatalog("demo/saltmarsh"), "docs/pictures/");
}

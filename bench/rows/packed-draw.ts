import { setFlagsFromString } from "node:v8";
import { runInNewContext } from "node:vm";
import { composeFrame, createCharacter, type Image, readCatalog, resolveLook } from "zealous-mantle";
import { createImage, decodePng, encodePng, pasteImage } from "zealous-mantle/raster";
import { sameBytes } from "../looks.ts";
import { agree, type Pair, type Row, sideBySide } from "../measure.ts";

const facings = ["south", "south-west", "west", "north-west", "north", "north-east", "east", "south-east"];
const frames = 40;
const side = 128;
/** What is drawn of a frame: a figure the size that figures have in frames with room for a swing. */
const figure = { x: 50, y: 70, width: 28, height: 36 };

/** One frame of a figure from the bytes of its PNG: packed with a frames table, and laid out on a grid. */
function makeArt() {
  const packed = createImage(frames * figure.width, facings.length * figure.height);
  const grid = createImage(frames * side, facings.length * side);
  for (let row = 0; row < facings.length; row += 1)
    for (let column = 0; column < frames; column += 1) {
      const drawn = drawFigure(row * frames + column);
      pasteImage(packed, drawn, column * figure.width, row * figure.height);
      pasteImage(grid, drawn, column * side + figure.x, row * side + figure.y);
    }
  const table = {
    mantle: "frames/1",
    frames: facings.flatMap((facing, row) =>
      Array.from({ length: frames }, (_, frame) => ({
        animation: "walk",
        facing,
        frame,
        rect: [frame * figure.width, row * figure.height, figure.width, figure.height],
        offset: [figure.x, figure.y],
      })),
    ),
  };
  const source = (more: object): Readonly<Record<string, unknown>> => ({
    mantle: "catalog/1",
    id: "one",
    version: "1",
    rigs: {
      rig: {
        frame: { width: side, height: side },
        origin: [64, 112],
        facings,
        animations: { walk: { frames, fps: 10 } },
      },
    },
    bodies: { one: { rig: "rig", art: [{ image: "art.png", depth: 0, ...more }] } },
  });
  const look = (more: object) => {
    const { catalog } = readCatalog(source(more), {}, { tables: new Map([["art.frames.json", table]]) });
    if (catalog === undefined) throw new Error("the catalog is not valid");
    return resolveLook(catalog, createCharacter(catalog, { body: "one" }));
  };
  const moment = { animation: "walk", facing: "north", time: 1.7 };
  const drawer = (bytes: Uint8Array, more: object) => () => {
    const image = decodePng(bytes);
    const own = look(more);
    return { image, own, frame: composeFrame(own, new Map([["art.png", image]]), moment) };
  };
  const ours = drawer(encodePng(packed), { frames: "art.frames.json" });
  const theirs = drawer(encodePng(grid), {});
  agree(sameBytes(ours().frame.data, theirs().frame.data), "the pictures are not the same");
  return { ours, theirs };
}

/** A round figure in sixty colors, none like another. */
function drawFigure(seed: number): Image {
  const { width, height } = figure;
  const image = createImage(width, height);
  const pixels = new Uint32Array(image.data.buffer);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) {
      const isInside = Math.hypot((x + 0.5) / width - 0.5, (y + 0.5) / height - 0.5) < 0.5;
      if (isInside) pixels[y * width + x] = 0xff000000 | (((((x + y) >> 2) + seed) % 60) * 0x040201);
    }
  return image;
}

const shape = `${facings.length} facings and ${frames} frames of ${side}×${side}`;

/** The first frame that is drawn: its picture decoded, prepared and composed. */
export const packedDraw: Row = {
  name: "packed-draw",
  work: `one frame of packed art, from its file; ${shape}`,
  against: "the same art laid out on a grid",
  unit: "ms",
  goal: { atMost: 0.2 },
  async measure() {
    const { ours, theirs } = makeArt();
    return sideBySide({ run: ours, times: 1 }, { run: theirs, times: 1 }, 9);
  },
};

/** What is kept in memory to draw it again. */
export const packedMemory: Row = {
  name: "packed-memory",
  work: `what is kept to draw packed art; ${shape}`,
  against: "the same art laid out on a grid",
  unit: "MB",
  goal: { atMost: 0.1 },
  async measure(): Promise<Pair> {
    const { ours, theirs } = makeArt();
    return { ours: await megabytesKept(ours), theirs: await megabytesKept(theirs) };
  },
};

async function megabytesKept(draw: () => unknown): Promise<number> {
  setFlagsFromString("--expose-gc");
  const collect: () => void = runInNewContext("gc");
  const used = async () => {
    // What was handed from call to call is let go of when they are over, and what hung on it one collection later.
    for (let times = 0; times < 4; times += 1) {
      await new Promise((resolve) => setTimeout(resolve, 10));
      collect();
    }
    const { heapUsed, arrayBuffers } = process.memoryUsage();
    return heapUsed + arrayBuffers;
  };
  draw();
  const before = await used();
  const kept = draw();
  const after = await used();
  agree(kept !== undefined, "nothing was drawn");
  return (after - before) / 1e6;
}

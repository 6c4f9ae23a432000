import { createCanvas, ImageData } from "@napi-rs/canvas";
import sharp from "sharp";
import { type Image, resolveLook } from "zealous-mantle";
import { bakeSheet, createImage } from "zealous-mantle/raster";
import { composedPlainly, type Figure, makeFigure, recoloredSheets, sameBytes, sheetSize } from "../looks.ts";
import { agree, type Row, sideBySide } from "../measure.ts";

const work = "compose 12 recolored layers, 256 cells of 64×64";

/**
 * Each time another set of colors, as prepared as theirs: pixels are not kept from one time to the next, so all of them are
 * composed again. Both draw into memory they have.
 */
function baker(figure: Figure) {
  const looks = Array.from({ length: 4 }, (_, seed) => resolveLook(figure.catalog, figure.painted(seed + 1)));
  let turn = 0;
  let into = createImage(sheetSize.width, sheetSize.height);
  return () => {
    turn += 1;
    const look = looks[turn % looks.length];
    if (look === undefined) throw new Error("no look");
    into = bakeSheet(look, figure.images, { into }).image;
    return into;
  };
}

/** Copies as many pixels as all layers cover together, from one place in memory to another. */
function copier({ pictures }: Figure) {
  const covered = pictures.map(({ data }) => data.filter((_, at) => at % 4 === 3 && data[at] !== 0).length);
  const pixels = new Uint32Array(covered.reduce((sum, count) => sum + count, 0)).fill(0xff102030);
  const target = new Uint32Array(pixels.length);
  return () => target.set(pixels);
}

function row(name: string, against: string, goal: number, compose: (sheets: readonly Image[]) => () => unknown): Row {
  return {
    name,
    work,
    against,
    unit: "ms",
    goal: { atLeast: goal },
    async measure() {
      const figure = makeFigure();
      const look = resolveLook(figure.catalog, figure.painted(1));
      const theirs = compose(recoloredSheets(figure, look));
      const pixels = await theirs();
      agree(
        sameBytes(bakeSheet(look, figure.images).image.data, pixels as ArrayLike<number>),
        "the pictures are not the same",
      );
      const pair = await sideBySide({ run: baker(figure), times: 12 }, { run: theirs, times: 1 });
      const { ours: takes } = await sideBySide({ run: copier(figure), times: 12 }, { run: () => undefined, times: 1 });
      return { ...pair, limit: { what: "copying the covered pixels once", takes } };
    },
  };
}

export const composeSkia = row("compose-skia", "@napi-rs/canvas (Skia) drawing the recolored sheets", 1.5, (sheets) => {
  const canvases = sheets.map((sheet) => {
    const canvas = createCanvas(sheet.width, sheet.height);
    canvas.getContext("2d").putImageData(new ImageData(sheet.data, sheet.width, sheet.height), 0, 0);
    return canvas;
  });
  const target = createCanvas(sheetSize.width, sheetSize.height);
  const context = target.getContext("2d");
  return () => {
    context.clearRect(0, 0, sheetSize.width, sheetSize.height);
    for (const canvas of canvases) context.drawImage(canvas, 0, 0);
    return context.getImageData(0, 0, sheetSize.width, sheetSize.height).data;
  };
});

export const composeSharp = row("compose-sharp", "sharp's composite of the recolored sheets", 25, (sheets) => {
  const raw = { width: sheetSize.width, height: sheetSize.height, channels: 4 } as const;
  const layers = sheets.map(({ data }) => ({ input: Buffer.from(data.buffer), raw }));
  return async () => {
    const blank = { create: { ...raw, background: { r: 0, g: 0, b: 0, alpha: 0 } } };
    return sharp(blank).composite(layers).raw().toBuffer();
  };
});

export const composePlain = row("compose-plain", "a plain per-pixel loop over the recolored sheets", 15, (sheets) => {
  return () => composedPlainly(sheets).data;
});

import { resolveLook } from "zealous-mantle";
import { canvasOf, canvasPainter } from "zealous-mantle/browser";
import { bakeSheet, createImage } from "zealous-mantle/raster";
import { makeFigure, sameBytes } from "./looks.ts";

const count = 300;
const cell = 64;

/** Runs in a page: the median time of a frame of the crowd, painted by the painter and from baked sheets, in milliseconds. */
async function measureCrowd(): Promise<{ ours: number; theirs: number; same: boolean }> {
  const figure = makeFigure();
  const crowd = Array.from({ length: count }, (_, number) => ({
    look: resolveLook(figure.catalog, figure.painted(number + 1)),
    x: 32 + ((number * 37) % 1216),
    y: 70 + ((number * 91) % 720),
  }));
  const painter = canvasPainter(figure.images);
  const bake = { animations: ["one"], facings: ["south"] };
  const sheets = crowd.map(({ look }) => canvasOf(bakeSheet(look, figure.images, bake).image));
  const context = contextOf(1280, 800);
  const clear = () => context.clearRect(0, 0, 1280, 800);
  // Reading a pixel makes the canvas do what was asked of it.
  const finish = () => context.getImageData(0, 0, 1, 1);
  const ours = (tick: number) => {
    clear();
    const moment = { animation: "one", facing: "south", time: tick / 12 };
    for (const { look, x, y } of crowd) painter.paint(context, look, moment, { x, y });
    finish();
  };
  const theirs = (tick: number) => {
    clear();
    const frame = tick % 16;
    for (const [number, { x, y }] of crowd.entries()) {
      const sheet = sheets[number];
      if (sheet !== undefined) context.drawImage(sheet, frame * cell, 0, cell, cell, x - 32, y - 60, cell, cell);
    }
    finish();
  };
  const taken: { ours: number[]; theirs: number[] } = { ours: [], theirs: [] };
  for (let tick = 0; tick < 96; tick += 1) {
    for (const [who, paint] of Object.entries({ ours, theirs })) {
      const start = performance.now();
      paint(tick);
      // The first rounds draw what is kept from then on.
      if (tick >= 32) taken[who as keyof typeof taken].push(performance.now() - start);
    }
    if (tick % 8 === 0) await new Promise(requestAnimationFrame);
  }
  ours(5);
  const one = context.getImageData(0, 0, 1280, 800).data;
  theirs(5);
  const same = sameBytes(one, context.getImageData(0, 0, 1280, 800).data);
  return { ours: median(taken.ours), theirs: median(taken.theirs), same };
}

function contextOf(width: number, height: number): CanvasRenderingContext2D {
  const canvas = canvasOf(createImage(width, height));
  document.body.append(canvas);
  const context = canvas.getContext("2d");
  if (context === null) throw new Error("no canvas");
  return context;
}

function median(samples: readonly number[]): number {
  return samples.toSorted((one, other) => one - other)[Math.floor(samples.length / 2)] ?? 0;
}

Object.assign(window, { measureCrowd });

import { Application, BufferImageSource, Rectangle, Sprite, Texture, type WebGLRenderer } from "pixi.js";
import { resolveLook } from "zealous-mantle";
import { openFigures } from "zealous-mantle/pixi";
import { type BakedSheet, bakeSheet } from "zealous-mantle/raster";
import { makeFigure, sameBytes } from "./looks.ts";
import type { Pair } from "./measure.ts";

const screen = { width: 1280, height: 800 };
/** For one character, so that what is measured is not the clearing of a screen. */
const small = { width: 160, height: 160 };
const count = 500;
const fps = 12;
/** What a walking character needs of its sheet, and what else there is in it. */
const walking = { animation: "one", facing: "south" };

async function openStage(size = screen) {
  const app = new Application();
  await app.init({ ...size, preference: "webgl", backgroundAlpha: 0, autoStart: false });
  const { gl } = app.renderer as WebGLRenderer;
  const read = (width: number, height: number) => {
    const pixels = new Uint8Array(width * height * 4);
    gl.readPixels(0, 0, width, height, gl.RGBA, gl.UNSIGNED_BYTE, pixels);
    return pixels;
  };
  /** Reading a pixel makes the card do what was asked of it. */
  const render = () => {
    app.render();
    read(1, 1);
  };
  return { app, render, read };
}

/** The textures of a row of a baked sheet. */
function texturesOf({ image, table }: BakedSheet): readonly Texture[] {
  const source = new BufferImageSource({
    resource: image.data,
    width: image.width,
    height: image.height,
    format: "rgba8unorm",
    alphaMode: "premultiply-alpha-on-upload",
    scaleMode: "nearest",
  });
  return table.frames
    .filter(({ animation, facing }) => animation === walking.animation && facing === walking.facing)
    .map(({ rect: [x, y, width, height] }) => new Texture({ source, frame: new Rectangle(x, y, width, height) }));
}

/** Runs in a page: the median time of a frame of the crowd in milliseconds, and the bytes of its textures. */
async function measureCrowdPixi(): Promise<{ time: Pair; bytes: Pair; same: boolean }> {
  const figure = makeFigure();
  const crowd = Array.from({ length: count }, (_, number) => ({
    look: resolveLook(figure.catalog, figure.painted(number + 1)),
    x: 32 + ((number * 37) % 1216),
    y: 70 + ((number * 91) % 720),
  }));
  const mine = await openStage();
  const figures = openFigures({
    loader: { images: figure.images, load: async () => undefined },
    atlas: { bytes: 2 ** 28 },
  });
  for (const { look, x, y } of crowd) {
    const one = figures.add({ look, ...walking });
    one.position.set(x, y);
    mine.app.stage.addChild(one);
  }
  const theirs = await openStage();
  let theirBytes = 0;
  const sprites = crowd.map(({ look, x, y }) => {
    const sheet = bakeSheet(look, figure.images, { animations: ["one", "two"] });
    theirBytes += sheet.image.data.length;
    const frames = texturesOf(sheet);
    const sprite = theirs.app.stage.addChild(new Sprite(frames[0]));
    sprite.position.set(x - look.rig.origin.x, y - look.rig.origin.y);
    return { sprite, frames };
  });
  const [taken, theirTaken]: [number[], number[]] = [[], []];
  const showTheirs = (tick: number) => {
    for (const { sprite, frames } of sprites) sprite.texture = frames[tick % frames.length] ?? Texture.EMPTY;
    theirs.render();
  };
  // The first run of the walk draws what is kept from then on.
  for (let tick = 0; tick < 80; tick += 1) {
    const start = performance.now();
    figures.update(tick === 0 ? 1 / fps / 2 : 1 / fps);
    mine.render();
    const middle = performance.now();
    showTheirs(tick);
    if (tick < 32) continue;
    taken.push(middle - start);
    theirTaken.push(performance.now() - middle);
  }
  mine.app.render();
  const one = mine.read(screen.width, screen.height);
  theirs.app.render();
  const same = sameBytes(one, theirs.read(screen.width, screen.height));
  return {
    time: { ours: median(taken), theirs: median(theirTaken) },
    bytes: { ours: figures.atlas.bytes, theirs: theirBytes },
    same,
  };
}

/** Runs in a page: the median time from another part until the next right frame is handed to the graphics card, in milliseconds. */
async function measureExchange(): Promise<Pair & { same: boolean }> {
  const figure = makeFigure();
  const looks = Array.from({ length: 121 }, (_, number) => resolveLook(figure.catalog, figure.painted(number + 1)));
  const mine = await openStage(small);
  const figures = openFigures({ loader: { images: figure.images, load: async () => undefined } });
  const walker = figures.add({ ...walking });
  walker.position.set(100, 100);
  mine.app.stage.addChild(walker);
  const theirs = await openStage(small);
  const sprite = theirs.app.stage.addChild(new Sprite());
  const [taken, theirTaken]: [number[], number[]] = [[], []];
  let same = true;
  for (const [tick, look] of looks.entries()) {
    const start = performance.now();
    walker.look = look;
    figures.update(tick === 0 ? 1 / fps / 2 : 1 / fps);
    mine.app.render();
    taken.push(performance.now() - start);
    const one = mine.read(small.width, small.height);
    const again = performance.now();
    const frames = texturesOf(bakeSheet(look, figure.images));
    sprite.texture = frames[tick % frames.length] ?? Texture.EMPTY;
    sprite.position.set(100 - look.rig.origin.x, 100 - look.rig.origin.y);
    theirs.app.render();
    theirTaken.push(performance.now() - again);
    same &&= sameBytes(one, theirs.read(small.width, small.height));
  }
  return { ours: median(taken), theirs: median(theirTaken), same };
}

function median(samples: readonly number[]): number {
  return samples.toSorted((one, other) => one - other)[Math.floor(samples.length / 2)] ?? 0;
}

Object.assign(window, { measureCrowdPixi, measureExchange });

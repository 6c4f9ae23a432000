import { Game, Scene as PhaserScene, WEBGL } from "phaser";
import { createFromPreset, type FrameEvent, resolveLook } from "zealous-mantle";
import { fetchCatalog, type ImageLoader, imageLoader } from "zealous-mantle/browser";
import { type DrawnFigure, figuresPlugin } from "zealous-mantle/phaser";
import { durationOf } from "zealous-mantle/raster";
import { canvas, placeOf } from "./places.ts";
import {
  type Actor,
  inBase64,
  readUpright,
  type Scene,
  type SheetFiles,
  type SheetFindings,
  trialOf,
} from "./trial.ts";

class Stage extends PhaserScene {}

/** What was found of that which only Phaser has. */
export interface OwnFindings {
  /** What the scene's loader said of its progress, the last of it, and how many files failed. */
  readonly progress: number;
  readonly failed: number;
  /** The animations that completed or began, in their order. */
  readonly played: readonly string[];
  /** Seconds of the game that a run took which lasts so long, at twice the pace. */
  readonly took: number;
  readonly lasts: number;
  /** What the frames of a walk emitted in one step that is longer than a run. */
  readonly words: readonly string[];
  /** Animations that the whole game knows. */
  readonly global: number;
}

async function tryOutOwn(files: readonly string[]): Promise<OwnFindings> {
  const { catalog, loader } = await fetchCatalog("/saltmarsh/", { files });
  const { game, stage, step } = await openGame(loader);
  const [preset = ""] = catalog.presets.keys();
  const look = resolveLook(catalog, createFromPreset(catalog, preset, { id: preset, name: "Wren" }));
  stage.figures.preload(look, { ...look, key: "of nobody", layers: look.layers.slice(0, 1) });
  let progress = 0;
  stage.load.on("progress", (value: number) => {
    progress = value;
  });
  const loaded = new Promise((resolve) => stage.load.once("complete", resolve));
  stage.load.start();
  await loaded;
  const failed = stage.load.totalFailed;
  const wren = stage.figures.add(100, 200, { look });
  const played: string[] = [];
  wren.on("animationstart", ({ key }: { key: string }) => played.push(`${key} begins`));
  wren.on("animationcomplete", ({ key }: { key: string }) => played.push(`${key} ends`));
  wren.play("hail").chain("idle");
  wren.anims.timeScale = 2;
  let took = 0;
  while (took < 10 && !played.includes("hail ends")) {
    step(0.02);
    took += 0.02;
  }
  step(0.02);
  const inOrder = [...played];
  const words: string[] = [];
  wren.on("frame-event", ({ word }: FrameEvent) => words.push(word));
  wren.anims.timeScale = 1;
  wren.play("walk");
  step(0.85);
  const found = {
    words,
    progress,
    failed,
    played: inOrder,
    took,
    lasts: durationOf(look, "hail"),
    global: game.anims.toJSON("").anims.length,
  };
  game.destroy(true);
  step(0);
  return found;
}

async function openGame(loader: ImageLoader) {
  const parent = document.createElement("div");
  document.body.append(parent);
  const game = new Game({
    ...canvas,
    type: WEBGL,
    parent,
    transparent: true,
    pixelArt: true,
    banner: false,
    preserveDrawingBuffer: true,
    audio: { noAudio: true },
    scene: Stage,
    plugins: { scene: [figuresPlugin({ loader })] },
  } as ConstructorParameters<typeof Game>[0]);
  await new Promise((resolve) => game.events.once("poststep", resolve));
  game.loop.stop();
  const stage = game.scene.scenes[0] as Stage;
  let now = 1000;
  const step = (seconds: number) => {
    now += seconds * 1000;
    game.step(now, seconds * 1000);
  };
  return { game, stage, step };
}

function glOf({ renderer }: Game): WebGLRenderingContext {
  return (renderer as unknown as { gl: WebGLRenderingContext }).gl;
}

/** Reads a sheet as Phaser does, and draws its frames. */
async function drawSheet({ image, table, names }: SheetFiles): Promise<SheetFindings> {
  const { game, stage, step } = await openGame(imageLoader(() => undefined));
  const key = image.replace(/^.*\/|\.png$/g, "");
  stage.load.atlas(key, image, table);
  stage.load.animation("animations", table);
  const loaded = new Promise((resolve) => stage.load.once("complete", resolve));
  stage.load.start();
  await loaded;
  for (const [number, name] of names.entries()) {
    const { x, y } = placeOf(number);
    stage.add.sprite(x, y, key, name);
  }
  step(0.01);
  const pixels = inBase64(readUpright(glOf(game)));
  const animations = game.anims.toJSON("").anims.map((each) => [each.key, each.frames.length]);
  game.destroy(true);
  step(0);
  return { pixels, animations: Object.fromEntries(animations) };
}

async function open(loader: ImageLoader): Promise<Scene> {
  const { game, stage, step } = await openGame(loader);
  const figureOf = (actor: Actor) => actor as DrawnFigure;
  return {
    add: (options, x, y) => stage.figures.add(x, y, options),
    attach(actor, point) {
      const thing = figureOf(actor).attachTo(point, stage.add.zone(0, 0, 1, 1));
      return () => (thing.visible ? { x: thing.x, y: thing.y } : undefined);
    },
    isHit(actor, x, y) {
      const figure = figureOf(actor).setInteractive();
      const { input, displayOriginX, displayOriginY } = figure;
      return input?.hitAreaCallback(input.hitArea, x + displayOriginX, y + displayOriginY, figure) === true;
    },
    warm: (look) => stage.figures.atlas.warm(look, { animations: ["idle"], facings: ["south"] }),
    onEvent: (actor, listener) => figureOf(actor).on("frame-event", (event: FrameEvent) => listener(event)),
    tick: step,
    pixels: () => readUpright(glOf(game)),
    close() {
      game.destroy(true);
      step(0);
    },
  };
}

Object.assign(window, { tryOut: trialOf(open), tryOutOwn, drawSheet });

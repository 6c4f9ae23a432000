import { Game, Scene as PhaserScene, WEBGL } from "phaser";
import type { FrameEvent } from "zealous-mantle";
import type { ImageLoader } from "zealous-mantle/browser";
import { type DrawnFigure, type Figures, figuresPlugin } from "zealous-mantle/phaser";
import { type Actor, canvas, type Scene, trialOf } from "./trial.ts";

class Stage extends PhaserScene {
  declare figures: Figures;
}

async function open(loader: ImageLoader): Promise<Scene> {
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
  const figureOf = (actor: Actor) => actor as DrawnFigure;
  const { gl } = game.renderer as unknown as { gl: WebGLRenderingContext };
  let now = 1000;
  return {
    add: (options, x, y) => stage.figures.add(x, y, options),
    attach(actor, point) {
      const thing = figureOf(actor).attach(point, stage.add.zone(0, 0, 1, 1));
      return () => (thing.visible ? { x: thing.x, y: thing.y } : undefined);
    },
    onEvent: (actor, listener) => figureOf(actor).on("frame-event", (event: FrameEvent) => listener(event)),
    tick(seconds) {
      now += seconds * 1000;
      game.step(now, seconds * 1000);
    },
    pixels() {
      const { width, height } = canvas;
      const upward = new Uint8Array(width * height * 4);
      gl.bindFramebuffer(gl.FRAMEBUFFER, null);
      gl.readPixels(0, 0, width, height, gl.RGBA, gl.UNSIGNED_BYTE, upward);
      const pixels = new Uint8Array(upward.length);
      for (let row = 0; row < height; row += 1)
        pixels.set(upward.subarray(row * width * 4, (row + 1) * width * 4), (height - 1 - row) * width * 4);
      return pixels;
    },
    close() {
      game.destroy(true);
      game.step(now, 0);
    },
  };
}

Object.assign(window, { tryOut: trialOf(open) });

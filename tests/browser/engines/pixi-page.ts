import { Application, Container, Graphics, type WebGLRenderer } from "pixi.js";
import type { FrameEvent } from "zealous-mantle";
import type { ImageLoader } from "zealous-mantle/browser";
import { type DrawnFigure, openFigures } from "zealous-mantle/pixi";
import { type Actor, canvas, type Scene, trialOf } from "./trial.ts";

async function open(loader: ImageLoader): Promise<Scene> {
  const app = new Application();
  await app.init({ ...canvas, preference: "webgl", backgroundAlpha: 0, preserveDrawingBuffer: true, autoStart: false });
  const figures = openFigures({ loader, ticker: app.ticker });
  const room = new Container();
  app.stage.addChild(room);
  let now = performance.now();
  app.ticker.update(now);
  const figureOf = (actor: Actor) => actor as DrawnFigure;
  return {
    add(options, x, y) {
      const figure = figures.add(options);
      figure.position.set(x, y);
      room.addChild(figure);
      return figure;
    },
    attach(actor, point) {
      const thing = figureOf(actor).attachTo(point, new Graphics());
      return () => (thing.visible ? thing.getGlobalPosition() : undefined);
    },
    onEvent: (actor, listener) => figureOf(actor).on("frame-event", (event: FrameEvent) => listener(event)),
    tick(seconds) {
      now += seconds * 1000;
      app.ticker.update(now);
      if (seconds > 0) return;
      // A tick of no time is none for the ticker.
      figures.update(0);
      app.render();
    },
    pixels() {
      const { gl } = app.renderer as WebGLRenderer;
      const { width, height } = canvas;
      const upward = new Uint8Array(width * height * 4);
      gl.readPixels(0, 0, width, height, gl.RGBA, gl.UNSIGNED_BYTE, upward);
      const pixels = new Uint8Array(upward.length);
      for (let row = 0; row < height; row += 1)
        pixels.set(upward.subarray(row * width * 4, (row + 1) * width * 4), (height - 1 - row) * width * 4);
      return pixels;
    },
    close() {
      figures.close();
      app.destroy(true, { children: true });
    },
  };
}

Object.assign(window, { tryOut: trialOf(open) });

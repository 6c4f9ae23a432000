import { Application, Assets, Container, Graphics, Sprite, type Spritesheet, type WebGLRenderer } from "pixi.js";
import type { FrameEvent } from "zealous-mantle";
import type { ImageLoader } from "zealous-mantle/browser";
import { type DrawnFigure, openFigures } from "zealous-mantle/pixi";
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

async function openApp(): Promise<Application> {
  const app = new Application();
  await app.init({ ...canvas, preference: "webgl", backgroundAlpha: 0, preserveDrawingBuffer: true, autoStart: false });
  return app;
}

/** Reads a sheet as Pixi does, and draws its frames. */
async function drawSheet({ table, names }: SheetFiles): Promise<SheetFindings> {
  const app = await openApp();
  const sheet: Spritesheet = await Assets.load(table);
  for (const [number, name] of names.entries()) {
    const { x, y } = placeOf(number);
    app.stage.addChild(new Sprite(sheet.textures[name])).position.set(x, y);
  }
  app.render();
  const pixels = inBase64(readUpright((app.renderer as WebGLRenderer).gl));
  const animations = Object.entries(sheet.animations).map(([name, frames]) => [name, frames.length]);
  app.destroy(true, { children: true });
  return { pixels, animations: Object.fromEntries(animations) };
}

async function open(loader: ImageLoader): Promise<Scene> {
  const app = await openApp();
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
    isHit: (actor, x, y) => figureOf(actor).hitArea?.contains(x, y) === true,
    warm: (look) => figures.atlas.warm(look, { animations: ["idle"], facings: ["south"] }),
    onEvent: (actor, listener) => figureOf(actor).on("frame-event", (event: FrameEvent) => listener(event)),
    tick(seconds) {
      now += seconds * 1000;
      app.ticker.update(now);
      if (seconds > 0) return;
      // A tick of no time is none for the ticker.
      figures.update(0);
      app.render();
    },
    pixels: () => readUpright((app.renderer as WebGLRenderer).gl),
    close() {
      figures.close();
      app.destroy(true, { children: true });
    },
  };
}

Object.assign(window, { tryOut: trialOf(open), drawSheet });

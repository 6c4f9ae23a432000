import { openSession, resolveLook } from "zealous-mantle";
import type { CanvasPainter } from "zealous-mantle/browser";
import { contextOf } from "../shared/dom.ts";
import { catalog, loader, store } from "../shared/saltmarsh.ts";
import { type Place, places } from "./places.ts";

/** The arrow keys that are down. */
export type Keys = ReadonlySet<string>;

/** Where a figure enters a place. */
export interface Entry {
  readonly place: string;
  readonly x: number;
  readonly facing: string;
}

const speed = 62;
const facings: readonly (readonly [string, string, number, number])[] = [
  ["ArrowLeft", "west", -1, 0],
  ["ArrowRight", "east", 1, 0],
  ["ArrowUp", "north", 0, -1],
  ["ArrowDown", "south", 0, 1],
];

/**
 * Plays one scene until the figure leaves it, and says where it goes. The scene knows its place, and nothing of the figure: it
 * asks the session who seat 1 is, with the same call as every other scene.
 */
export async function playScene(
  canvas: HTMLCanvasElement,
  painter: CanvasPainter,
  keys: Keys,
  entry: Entry,
): Promise<Entry> {
  const place = places[entry.place] as Place;
  const session = await openSession({ catalog, store });
  const character = session.seat(1).character;
  if (character === undefined) throw new Error("Seat 1 is empty");
  const look = resolveLook(catalog, character);
  await loader.load(look);

  const context = contextOf(canvas);
  const still = matchMedia("(prefers-reduced-motion: reduce)");
  const figure = {
    x: entry.x,
    y: (place.ground[0] + place.ground[1]) / 2,
    facing: entry.facing,
    animation: "idle",
    since: performance.now(),
  };

  return new Promise((leave) => {
    let before = performance.now();
    const tick = (now: number) => {
      const seconds = Math.min(0.1, (now - before) / 1000);
      before = now;
      move(figure, keys, seconds, place, now);
      const scenery = still.matches ? 0 : now / 1000;
      place.paint(context, canvas.width, canvas.height, scenery);
      const moment = { animation: figure.animation, facing: figure.facing, time: (now - figure.since) / 1000 };
      painter.paint(context, look, moment, { x: Math.round(figure.x), y: Math.round(figure.y) });
      place.paintFront?.(context, canvas.width, canvas.height, scenery);
      Object.assign(canvas.dataset, {
        place: entry.place,
        x: String(Math.round(figure.x)),
        y: String(Math.round(figure.y)),
        facing: figure.facing,
        animation: figure.animation,
      });
      const beyond = figure.x < 0 ? place.west : figure.x > canvas.width ? place.east : undefined;
      if (beyond === undefined) requestAnimationFrame(tick);
      else leave({ place: beyond, x: figure.x < 0 ? canvas.width - 8 : 8, facing: figure.facing });
    };
    requestAnimationFrame(tick);
  });
}

interface Standing {
  x: number;
  y: number;
  facing: string;
  animation: string;
  since: number;
}

function move(figure: Standing, keys: Keys, seconds: number, place: Place, now: number): void {
  const held = facings.filter(([key]) => keys.has(key));
  const animation = held.length > 0 ? "walk" : "idle";
  if (animation !== figure.animation) Object.assign(figure, { animation, since: now });
  for (const [, facing, dx, dy] of held) {
    figure.facing = facing;
    figure.x += dx * speed * seconds;
    figure.y += dy * speed * seconds * 0.5;
  }
  const [far, near] = place.ground;
  figure.y = Math.min(near, Math.max(far, figure.y));
  if (place.west === undefined) figure.x = Math.max(14, figure.x);
  if (place.east === undefined) figure.x = Math.min(306, figure.x);
}

import type { Session } from "zealous-mantle";
import { type CanvasPainter, isInputTaken, openFigure } from "zealous-mantle/browser";
import { contextOf } from "../shared/dom.ts";
import { loader } from "../shared/saltmarsh.ts";
import { type Place, places } from "./places.ts";

/** What every scene works with. */
export interface Stage {
  readonly canvas: HTMLCanvasElement;
  readonly painter: CanvasPainter;
  /** The keys that are down. */
  readonly keys: ReadonlySet<string>;
  readonly session: Session;
  readonly say: (text: string) => void;
  readonly isNight: () => boolean;
}

/** Where a figure enters a place. */
export interface Entry {
  readonly place: string;
  readonly x: number;
  readonly facing: string;
}

const speed = 62;
const strongest = 9;
const facings: readonly (readonly [string, string, number, number])[] = [
  ["ArrowLeft", "west", -1, 0],
  ["ArrowRight", "east", 1, 0],
  ["ArrowUp", "north", 0, -1],
  ["ArrowDown", "south", 0, 1],
];

/**
 * Plays one scene until the figure leaves it, and says where it goes. The scene knows its place, and nothing of the figure: that is
 * whoever sits in seat 1, as they look now.
 */
export function playScene({ canvas, painter, keys, session, say, isNight }: Stage, entry: Entry): Promise<Entry> {
  const place = places[entry.place] as Place;
  const context = contextOf(canvas);
  const still = matchMedia("(prefers-reduced-motion: reduce)");
  const seat = session.seat(1);
  const figure = openFigure({ session, seat: 1, loader, animation: "idle", facing: entry.facing });
  const at = { x: entry.x, y: (place.ground[0] + place.ground[1]) / 2 };
  let stamina = strongest;
  /** Whether the locker has nothing more to say since one came to it. */
  let isNew = true;

  return new Promise((leave) => {
    let before = performance.now();
    const tick = (now: number) => {
      const seconds = Math.min(0.1, (now - before) / 1000);
      before = now;
      const held = isInputTaken() ? [] : facings.filter(([key]) => keys.has(key));
      walk(at, held, seconds, place);
      figure.animation = held.length > 0 ? "walk" : "idle";
      figure.facing = held.at(-1)?.[1] ?? figure.facing;
      figure.advance(seconds);

      // What the running game knows, in the game's own words; the catalog says what follows.
      stamina = Math.max(0, Math.min(strongest, stamina + (held.length > 0 ? -0.9 : 1.8) * seconds));
      const isWet = place.water?.(at.x, at.y) ?? false;
      seat.signal({ stamina: Math.floor(stamina), "in-water": isWet });
      const locker = place.locker !== undefined && Math.abs(at.x - place.locker) < 16;
      if (locker && keys.has("Enter") && !isInputTaken()) {
        const [outcome] = session.raise("touch:locker", { by: "player" });
        if (outcome?.code !== "resting")
          say(outcome?.done ? "Storm watch, from head to foot." : (outcome?.because ?? ""));
        isNew = false;
      } else if (!locker) {
        say("");
        isNew = true;
      } else if (isNew) say("Enter opens the locker.");

      const scenery = still.matches ? 0 : now / 1000;
      place.paint(context, canvas.width, canvas.height, scenery);
      if (isNight()) darken(context);
      figure.paint(context, painter, { x: Math.round(at.x), y: Math.round(at.y) });
      place.paintFront?.(context, canvas.width, canvas.height, scenery);
      Object.assign(canvas.dataset, {
        place: entry.place,
        x: String(Math.round(at.x)),
        y: String(Math.round(at.y)),
        facing: figure.facing,
        animation: figure.animation,
        form: figure.look?.form ?? "",
      });
      const beyond = at.x < 0 ? place.west : at.x > canvas.width ? place.east : undefined;
      if (beyond === undefined) requestAnimationFrame(tick);
      else {
        figure.free();
        leave({ place: beyond, x: at.x < 0 ? canvas.width - 8 : 8, facing: figure.facing });
      }
    };
    requestAnimationFrame(tick);
  });
}

/** Night falls on what is behind the figure, who carries a light. */
function darken(context: CanvasRenderingContext2D): void {
  context.globalCompositeOperation = "multiply";
  context.fillStyle = "#5a6a9c";
  context.fillRect(0, 0, context.canvas.width, context.canvas.height);
  context.globalCompositeOperation = "source-over";
}

function walk(
  at: { x: number; y: number },
  held: readonly (readonly [string, string, number, number])[],
  seconds: number,
  place: Place,
): void {
  for (const [, , dx, dy] of held) {
    at.x += dx * speed * seconds;
    at.y += dy * speed * seconds * 0.5;
  }
  const [far, near] = place.ground;
  at.y = Math.min(near, Math.max(far, at.y));
  if (place.west === undefined) at.x = Math.max(14, at.x);
  if (place.east === undefined) at.x = Math.min(306, at.x);
}

import type { Look } from "zealous-mantle";
import type { CanvasPainter } from "zealous-mantle/browser";
import { contextOf } from "../shared/dom.ts";
import { paintJetty } from "../shared/scenery.ts";

export interface Stage {
  show(look: Look): void;
  /** Turns the figure a quarter; 1 is to the viewer's right. */
  turn(by: 1 | -1): void;
  /** Starts or stops walking, and says whether it walks now. */
  toggleWalk(): boolean;
}

const round = ["south", "east", "north", "west"];

/** Shows a look on the jetty, always moving. The time runs on when the look changes, so the pose is kept. */
export function openStage(canvas: HTMLCanvasElement, painter: CanvasPainter, first: Look): Stage {
  const context = contextOf(canvas);
  const still = matchMedia("(prefers-reduced-motion: reduce)");
  let look = first;
  let loaded = false;
  let facing = 0;
  let walking = false;

  const paint = (milliseconds: number) => {
    const time = still.matches ? 0 : milliseconds / 1000;
    paintJetty(context, canvas.width, canvas.height, time);
    const moment = { animation: walking ? "walk" : "idle", facing: round[facing] ?? "south", time };
    if (loaded) painter.paint(context, look, moment, { x: canvas.width / 2, y: canvas.height - 12 });
    canvas.dataset.facing = moment.facing;
    canvas.dataset.animation = moment.animation;
    requestAnimationFrame(paint);
  };
  requestAnimationFrame(paint);

  return {
    show(next) {
      look = next;
      loaded = true;
    },
    turn(by) {
      facing = (facing + by + round.length) % round.length;
    },
    toggleWalk() {
      walking = !walking;
      return walking;
    },
  };
}

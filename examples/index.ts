import { createFromPreset, type Look, resolveLook } from "zealous-mantle";
import { canvasPainter } from "zealous-mantle/browser";
import { durationOf } from "zealous-mantle/raster";
import { rollCharacter } from "zealous-mantle/solver";
import { contextOf } from "./shared/dom.ts";
import { catalog, loader } from "./shared/saltmarsh.ts";

/** Somebody beside the name of each example: a preset of the catalog, or whoever comes of a seed. */
interface Shown {
  readonly look: Look;
  readonly animation: string;
  readonly context: CanvasRenderingContext2D;
}

const size = { width: 48, height: 44 };

async function show(canvas: HTMLCanvasElement): Promise<Shown> {
  const { who = "", animation = "idle" } = canvas.dataset;
  const character = catalog.presets.has(who)
    ? createFromPreset(catalog, who)
    : rollCharacter(catalog, { seed: Number(who), emptyChance: 0.2 });
  const look = resolveLook(catalog, character);
  await loader.load(look);
  Object.assign(canvas, size);
  return { look, animation, context: contextOf(canvas) };
}

const everyone = await Promise.all([...document.querySelectorAll("canvas")].map(show));
const painter = canvasPainter(loader.images);
const standsStill = matchMedia("(prefers-reduced-motion: reduce)");

function paint(now: number): void {
  for (const [number, { look, animation, context }] of everyone.entries()) {
    // Each in their own time, so that nobody marches in step; what ends is done again after a while.
    const time = standsStill.matches ? 0 : (now / 1000 + number * 0.37) % (durationOf(look, animation) * 4);
    context.clearRect(0, 0, size.width, size.height);
    painter.paint(context, look, { animation, facing: "south", time }, { x: size.width / 2, y: 76 - 14 });
  }
  requestAnimationFrame(paint);
}

requestAnimationFrame(paint);
document.body.dataset["ready"] = "true";

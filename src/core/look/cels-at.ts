import type { Animation, Facing, Rig } from "../catalog/catalog.ts";
import { recall } from "../recall.ts";
import type { Cel, Look, LookLayer, Moment } from "./look.ts";
import { named } from "./named.ts";
import { rowOf } from "./sheet-layout.ts";

/**
 * The pictures of a look at a moment, back to front.
 *
 * A layer that was not drawn for the animation shows what it, or else the rig, says to show otherwise, and is left out when
 * nothing is said; another part's art is never shown in its place. Time runs in a loop.
 *
 * @throws MantleError `unknown-animation` or `unknown-facing`.
 * @example
 * celsAt(look, { animation: "walk", facing: "west", time: 0.35 })
 * // → [{ layer, source: { x: 192, y: 400, width: 64, height: 80 }, x: -32, y: -76, flip: false }, …]
 */
export function celsAt(look: Look, moment: Moment): readonly Cel[] {
  const animation = named("animation", moment.animation, look.rig.animations);
  const facing = named("facing", moment.facing, look.rig.facings);
  return orderByDepth(look, facing).flatMap((layer) => {
    const shown = shownAnimation(look.rig, layer, animation);
    if (shown === undefined) return [];
    const cel = celOf(look.rig, layer, shown, facing, frameAt(shown, moment.time));
    return cel === undefined ? [] : [cel];
  });
}

/** The frame an animation shows at a time in seconds. A time on the border of two frames shows the later one. */
export function frameAt(animation: Pick<Animation, "frames" | "fps">, time: number): number {
  const frame = Math.floor(time * animation.fps + 1e-9) % animation.frames;
  return frame < 0 ? frame + animation.frames : frame;
}

const orders = new WeakMap<Look, Map<string, readonly LookLayer[]>>();

/** The layers back to front in a facing; layers of equal depth keep the order of the look. */
function orderByDepth(look: Look, facing: Facing): readonly LookLayer[] {
  const byFacing = recall(orders, look, () => new Map<string, readonly LookLayer[]>());
  return recall(byFacing, facing.id, () => {
    const depth = (layer: LookLayer) =>
      layer.depthByFacing.get(facing.id) ?? layer.depthByFacing.get(facing.drawnAs) ?? layer.depth;
    return look.layers.toSorted((one, other) => depth(one) - depth(other));
  });
}

function shownAnimation(rig: Rig, layer: LookLayer, wanted: Animation): Animation | undefined {
  const seen = new Set<string>();
  let animation: Animation | undefined = wanted;
  while (animation !== undefined && !layer.layout.animations.includes(animation.id)) {
    if (seen.has(animation.id)) return undefined;
    seen.add(animation.id);
    animation = rig.animations.get(layer.otherwise.get(animation.id) ?? animation.otherwise ?? "");
  }
  return animation;
}

function celOf(rig: Rig, layer: LookLayer, animation: Animation, facing: Facing, frame: number): Cel | undefined {
  const { layout } = layer;
  const row = rowOf(layout, animation.id, facing.drawnAs);
  if (row === undefined) return undefined;
  const { width, height } = layout.cell;
  const left = layout.at.x - rig.origin.x;
  return {
    layer,
    source: { x: frame * width, y: row * height, width, height },
    x: facing.mirrored ? -left - width : left,
    y: layout.at.y - rig.origin.y,
    flip: facing.mirrored,
  };
}

import type { Image, Images, Look, Moment } from "zealous-mantle";

/**
 * Draws a look the slow, obvious way: every pixel of the frame asks every layer, back to front, for its color, and lays it over
 * what is there. No index planes, no trims, no tables, and a layout worked out afresh.
 */
export function composeSlowly(look: Look, images: Images, moment: Moment): Image {
  const { frame, origin } = look.rig;
  const data = new Uint8ClampedArray(frame.width * frame.height * 4);
  const facing = look.rig.facings.get(moment.facing);
  if (facing === undefined) throw new Error("no such facing");
  const depthOf = (layer: Look["layers"][number]) =>
    layer.depthByFacing.get(facing.id) ?? layer.depthByFacing.get(facing.drawnAs) ?? layer.depth;
  const order = look.layers
    .map((layer, number) => ({ layer, number }))
    .sort((a, b) => depthOf(a.layer) - depthOf(b.layer) || a.number - b.number);
  for (let y = 0; y < frame.height; y += 1) {
    for (let x = 0; x < frame.width; x += 1) {
      // Undo the mirror: where on the drawn frame is this pixel?
      const drawnX = facing.mirrored ? 2 * origin.x - 1 - x : x;
      let under = [0, 0, 0, 0];
      for (const { layer } of order)
        under = over(colorOf(layer, images, moment, look, facing.drawnAs, drawnX, y), under);
      data.set(under, (y * frame.width + x) * 4);
    }
  }
  return { width: frame.width, height: frame.height, data };
}

type Color = number[];

function colorOf(
  layer: Look["layers"][number],
  images: Images,
  moment: Moment,
  look: Look,
  facing: string,
  x: number,
  y: number,
): Color {
  const { layout, recolor } = layer;
  const image = images.get(layer.image);
  const animation = look.rig.animations.get(moment.animation);
  if (image === undefined || animation === undefined) throw new Error("not there");
  const cellX = x - layout.at.x;
  const cellY = y - layout.at.y;
  if (cellX < 0 || cellY < 0 || cellX >= layout.cell.width || cellY >= layout.cell.height) return [0, 0, 0, 0];
  const column = Math.floor(moment.time * animation.fps + 1e-9) % animation.frames;
  const row = layout.animations.indexOf(animation.id) * layout.facings.length + layout.facings.indexOf(facing);
  const at = ((row * layout.cell.height + cellY) * image.width + column * layout.cell.width + cellX) * 4;
  let [red = 0, green = 0, blue = 0, alpha = 0] = image.data.subarray(at, at + 4);
  const key = recolor === undefined || alpha !== 255 ? -1 : recolor.key.indexOf(red * 65536 + green * 256 + blue);
  if (recolor !== undefined && key >= 0) {
    const color = recolor.colors[key] ?? 0;
    [red, green, blue] = [Math.floor(color / 65536), Math.floor(color / 256) % 256, color % 256];
  }
  alpha = Math.round(alpha * layer.opacity);
  return [red, green, blue, alpha];
}

/** Source-over in exact whole numbers, rounded once at the end. */
function over([r1 = 0, g1 = 0, b1 = 0, a1 = 0]: Color, [r0 = 0, g0 = 0, b0 = 0, a0 = 0]: Color): Color {
  const whole = a1 * 255 + a0 * (255 - a1);
  if (whole === 0) return [0, 0, 0, 0];
  const mix = (front: number, back: number) => Math.round((front * a1 * 255 + back * a0 * (255 - a1)) / whole);
  return [mix(r1, r0), mix(g1, g0), mix(b1, b0), Math.round(whole / 255)];
}

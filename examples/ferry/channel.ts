/** The channel between the islands and the ferry on it, painted pixel by pixel. */

type Context = CanvasRenderingContext2D;

const sky = ["#7f9bb0", "#9db3b5", "#bfc6b2", "#dcd3ac", "#efdca4"];
const water = ["#7fa3a6", "#6a949b", "#55838d", "#42707c", "#35636f", "#2c5561"];

function box(context: Context, color: string, x: number, y: number, width: number, height: number): void {
  context.fillStyle = color;
  context.fillRect(Math.round(x), Math.round(y), Math.round(width), Math.round(height));
}

function seeded(number: number): number {
  return Math.abs(Math.sin(number * 12.9898) * 43758.5453) % 1;
}

/** Around the ends of a strip, so that what goes by comes again. */
function around(value: number, length: number): number {
  return ((value % length) + length) % length;
}

function hills(
  context: Context,
  color: string,
  width: number,
  horizon: number,
  passed: number,
  tall: number,
  seed: number,
): void {
  for (let x = 0; x < width; x += 1) {
    const at = x + passed + seed * 100;
    const height =
      tall * (Math.sin(at * 0.021) + 0.6 * Math.sin(at * 0.047 + seed)) + (Math.sin(at * 0.9) > 0.5 ? 1 : 0);
    if (height > 0) box(context, color, x, horizon - height, 1, height + 1);
  }
}

/** A post that marks the channel, with a lamp on every other. */
function mark(context: Context, x: number, foot: number, isLit: boolean, time: number): void {
  box(context, "#22150c", x - 1, foot - 38, 6, 40);
  box(context, "#6b4a2b", x, foot - 37, 4, 38);
  box(context, "#94693d", x, foot - 37, 1, 38);
  box(context, "#e6d9bf", x, foot - 30, 4, 3);
  box(context, "#a9c3bd", x - 3, foot + 1, 10, 1);
  if (!isLit) return;
  box(context, "#1d262b", x - 2, foot - 46, 8, 9);
  box(context, Math.sin(time * 8 + x) > -0.7 ? "#fbd873" : "#f2a83a", x, foot - 44, 4, 6);
}

/** A landing: at the beginning of the way, and at its end. */
function landing(context: Context, x: number, horizon: number, foot: number): void {
  for (let post = 0; post < 5; post += 1) {
    box(context, "#22150c", x + 4 + post * 22, foot - 22, 6, 26);
    box(context, "#6b4a2b", x + 5 + post * 22, foot - 22, 4, 25);
  }
  box(context, "#22150c", x - 2, foot - 27, 108, 8);
  box(context, "#a9834f", x - 1, foot - 26, 106, 5);
  box(context, "#c19a63", x - 1, foot - 26, 106, 1);
  box(context, "#22150c", x + 20, horizon - 14, 58, foot - horizon - 13);
  box(context, "#5f7f80", x + 21, horizon - 13, 56, foot - horizon - 14);
  for (let row = 0; row < 18; row += 1)
    box(context, row % 4 === 0 ? "#6e3728" : "#8a4a35", x + 12 + row, horizon - 14 - row, 74 - row * 2, 1);
  box(context, "#f2c56a", x + 52, horizon, 14, 12);
  box(context, "#22150c", x + 58, horizon, 2, 12);
  box(context, "#9c3b2e", x + 30, horizon + 2, 13, foot - horizon - 29);
}

/**
 * Paints the channel.
 *
 * @param passed - how far the ferry has come, in pixels of its own plane.
 * @param whole - how far it goes.
 */
export function paintChannel(
  context: Context,
  width: number,
  height: number,
  time: number,
  passed: number,
  whole: number,
): void {
  const horizon = Math.round(height * 0.4);
  for (const [number, color] of sky.entries()) box(context, color, 0, (horizon * number) / sky.length, width, horizon);
  for (let row = 0; row < 16; row += 1) {
    const half = Math.sqrt(16 ** 2 - (16 - row) ** 2);
    box(context, "#f9ecc4", width * 0.3 - half, horizon - 16 + row, half * 2, 1);
  }
  for (let each = 0; each < 4; each += 1) {
    const x = around(seeded(each + 2) * width * 2 - passed * 0.03 + time, width + 90) - 60;
    const y = 8 + seeded(each + 9) * (horizon * 0.5);
    box(context, "#e9dfbf", x, y, 46 + each * 6, 3);
    box(context, "#f4ecdc", x + 8, y - 3, 24 + each * 3, 3);
  }
  hills(context, "#a3a99f", width, horizon, passed * 0.06, 6, 1);
  hills(context, "#87918c", width, horizon, passed * 0.12, 4, 3);
  const deep = height - horizon;
  for (const [number, color] of water.entries())
    box(context, color, 0, horizon + (deep * number) / water.length, width, deep);
  for (let each = 0; each < 90; each += 1) {
    const depth = seeded(each + 40);
    const y = horizon + 2 + depth * depth * (deep - 4);
    const x = around(seeded(each) * width * 3 - passed * (0.15 + depth), width + 30) - 20;
    context.globalAlpha = 0.25 + 0.35 * Math.abs(Math.sin(time * 0.7 + each));
    box(context, each % 3 === 0 ? "#f2d9a8" : "#a9c3bd", x, y, 3 + depth * 9, 1);
  }
  context.globalAlpha = 1;
  landing(context, 10 - passed * 0.6, horizon, horizon + 40);
  landing(context, width - 116 + (whole - passed) * 0.6, horizon, horizon + 40);
  for (let each = 1; each < whole / 150; each += 1)
    mark(context, each * 150 - passed * 0.8 + 120, horizon + 34, each % 2 === 0, time);
}

/** How the hull lies: its left end, its length, and where one stands in it. */
export const hull = { left: 42, length: 240, deck: 148 };
/** Where each rower stands, from the stern. */
export const benches = [78, 128, 178, 228] as const;

/** The far side of the ferry, before which the rowers stand. */
export function paintHullBehind(context: Context, bob: number): void {
  const { left, length, deck } = hull;
  box(context, "#22150c", left + 3, deck - 17 + bob, length - 6, 18);
  box(context, "#6b4a2b", left + 5, deck - 16 + bob, length - 10, 4);
  box(context, "#4c331d", left + 5, deck - 12 + bob, length - 10, 13);
  for (const x of benches) box(context, "#94693d", x - 11, deck - 9 + bob, 22, 3);
}

/** The near side of the ferry, and the water it stirs. @param speed - 0 at rest. */
export function paintHullBefore(context: Context, bob: number, time: number, speed: number, width: number): void {
  const { left, length, deck } = hull;
  const top = deck - 8 + bob;
  for (let row = 0; row < 22; row += 1) {
    const cut = Math.round((row / 22) ** 1.6 * 16);
    const [x, long] = [left + cut, length - cut * 2];
    box(context, "#22150c", x - 1, top + row, long + 2, 1);
    const color = row < 2 ? "#e6d9bf" : row < 11 ? "#9c3b2e" : row < 13 ? "#6e2a21" : "#3f1d18";
    box(context, color, x, top + row, long, 1);
    if (row === 2) box(context, "#c9634a", x, top + row, long, 1);
  }
  for (let x = left + 18; x < left + length - 20; x += 26) box(context, "#7c2f27", x, top + 4, 1, 7);
  box(context, "#22150c", left - 6, top - 10, 7, 16);
  box(context, "#94693d", left - 5, top - 9, 5, 14);
  box(context, "#22150c", left + length - 2, top - 12, 7, 18);
  box(context, "#94693d", left + length - 1, top - 11, 5, 16);
  // The water closes over the keel in small waves.
  const water = top + 19 - bob;
  for (let x = left + 4; x < left + length - 4; x += 1) {
    const wave = water + Math.round(Math.sin(x * 0.18 + time * 3) * 1.2);
    box(context, "#2c5561", x, wave + 1, 1, top + 24 - wave);
    box(context, "#a9c3bd", x, wave, 1, 1);
  }
  const foam = Math.min(46, Math.abs(speed) * 0.9);
  for (let each = 0; each < foam; each += 1) {
    const y = water + 1 + (each % 5) * 2;
    const behind = speed >= 0 ? left - each * 1.5 + Math.sin(time * 9 + each) * 2 : left + length + each * 1.5;
    if (behind > -4 && behind < width) box(context, each % 2 === 0 ? "#d7e3da" : "#a9c3bd", behind, y, 4, 1);
  }
}

/** An oar from a rower's hands over the side into the water. @param lean - where its blade is, −1 to 1 along the boat. */
export function paintOar(context: Context, x: number, y: number, lean: number, isInWater: boolean): void {
  const [toX, toY] = [x + 6 + lean * 20, hull.deck + (isInWater ? 22 : 14)];
  const steps = Math.max(Math.abs(toX - x), Math.abs(toY - y));
  const draw = (color: (isBlade: boolean) => string, rim: number) => {
    for (let step = 0; step <= steps; step += 1) {
      const [px, py] = [x + ((toX - x) * step) / steps, y + ((toY - y) * step) / steps];
      const isBlade = step > steps * 0.72;
      box(context, color(isBlade), px - rim, py - rim, (isBlade ? 4 : 2) + rim * 2, 1 + rim * 2);
    }
  };
  draw(() => "#22150c", 1);
  draw((isBlade) => (isBlade ? "#deb181" : "#b88351"), 0);
  if (isInWater) box(context, "#d7e3da", toX - 5, toY + 1, 11, 1);
}

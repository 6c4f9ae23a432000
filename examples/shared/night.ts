/** Night over what is painted so far, and the lights in it. */

type Context = CanvasRenderingContext2D;

/** Night falls on all that is painted. */
export function darken(context: Context): void {
  const { width, height } = context.canvas;
  context.globalCompositeOperation = "multiply";
  context.fillStyle = "#6f7fb4";
  context.fillRect(0, 0, width, height);
  context.globalCompositeOperation = "source-over";
  context.fillStyle = "#16204a70";
  context.fillRect(0, 0, width, height);
}

/** The light around a lantern: rows of whole pixels, so that it has the grain of everything else. @param reach - in pixels. */
export function glow(context: Context, x: number, y: number, reach: number): void {
  context.globalCompositeOperation = "lighter";
  context.fillStyle = "#170f05";
  for (const part of [1, 0.83, 0.67, 0.5]) {
    const radius = reach * part;
    for (let row = -Math.round(radius / 2) * 2; row <= radius; row += 2) {
      const half = Math.round(Math.sqrt(Math.max(0, radius ** 2 - row ** 2)) / 2) * 2;
      context.fillRect(Math.round(x) - half, Math.round(y) + row, half * 2, 2);
    }
  }
  context.globalCompositeOperation = "source-over";
}

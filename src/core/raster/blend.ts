/** Source-over of two straight-alpha colors `0xAABBGGRR`, every channel rounded to the nearest. */
export function blendOver(over: number, under: number): number {
  const alphaOver = over >>> 24;
  if (alphaOver === 255) return over;
  const alphaUnder = under >>> 24;
  const rest = alphaUnder * (255 - alphaOver);
  const whole = alphaOver * 255 + rest;
  if (whole === 0) return 0;
  const front = alphaOver * 255;
  const blue = Math.round((((over >>> 16) & 255) * front + ((under >>> 16) & 255) * rest) / whole);
  const green = Math.round((((over >>> 8) & 255) * front + ((under >>> 8) & 255) * rest) / whole);
  const red = Math.round(((over & 255) * front + (under & 255) * rest) / whole);
  return ((Math.round(whole / 255) << 24) | (blue << 16) | (green << 8) | red) >>> 0;
}

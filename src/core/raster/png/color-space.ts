import { readChunks } from "./chunks.ts";

/** The gamma of sRGB as a PNG writes it, 1/2.2 times 100,000, and how much another may differ and be meant to be it. */
const gamma = 45_455;
const tolerance = 500;

/**
 * What a PNG says its colors are in, if that is not sRGB: the name of its profile, or its gamma. Pictures are read as sRGB whatever they say
 * (ISO/IEC 15948, clause 11.3.3).
 *
 * @throws MantleError `bad-picture` when it is damaged before its pixels begin.
 */
export function otherColors(bytes: Uint8Array): string | undefined {
  let found: string | undefined;
  for (const { type, data } of readChunks(bytes)) {
    if (type === "sRGB") return undefined;
    if (type === "IDAT") break;
    if (type === "iCCP") {
      const name = String.fromCharCode(...data.subarray(0, Math.max(0, data.indexOf(0))));
      return /srgb/i.test(name) ? undefined : name;
    }
    if (type === "gAMA" && data.length === 4) {
      const value = new DataView(data.buffer, data.byteOffset, 4).getUint32(0);
      if (Math.abs(value - gamma) > tolerance) found = `gamma ${Number((100_000 / value).toFixed(2))}`;
    }
  }
  return found;
}

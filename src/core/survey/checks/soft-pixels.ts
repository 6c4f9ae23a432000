import { message } from "../../base/message.ts";
import { type ArtCheck, ownerOf } from "../art/art-check.ts";

/** Pixels that are half transparent on a rig whose pixels are said to be crisp: all there, or not at all. */
export const softPixels: ArtCheck = {
  name: "soft pixels",
  *find(figure) {
    if (!figure.look.rig.crisp) return;
    const owner = ownerOf(figure);
    for (const { path, sheet, image } of figure.pictures) {
      const soft = sheet.table.filter((color) => isSoft(color));
      if (soft.length === 0) continue;
      const pixels = new Uint32Array(image.data.buffer, image.data.byteOffset, image.width * image.height);
      const at = pixels.findIndex(isSoft);
      const count = pixels.reduce((sum, color) => sum + (isSoft(color) ? 1 : 0), 0);
      yield {
        cause: `soft-pixels ${owner} ${path}`,
        owner,
        severity: "warning",
        path,
        finding: message("soft-pixels", { owner, count, x: at % image.width, y: Math.floor(at / image.width) }),
        fix: message("mend-soft-pixels", { rig: figure.look.rig.id }),
        at: undefined,
      };
    }
  },
};

/** Whether a packed color is neither opaque nor nothing. */
function isSoft(color: number): boolean {
  const alpha = color >>> 24;
  return alpha > 0 && alpha < 255;
}

import { formatColor } from "../../base/color/color.ts";
import { message } from "../../base/message.ts";
import { swapRedAndBlue } from "../../raster/sheet.ts";
import { type ArtCheck, type ArtSign, ownerOf } from "../art/art-check.ts";
import type { FigureFacts, PictureFacts } from "../art/art-facts.ts";

/** How much each channel of a color may differ, of 255, that was meant to be a key color: nobody sees it, and it is not recolored. */
const near = 4;

/** Colors that nearly are those of the channel's key, and animations in which none of them is. */
export const offKey: ArtCheck = {
  name: "colors off the key",
  *find(figure) {
    for (const picture of figure.pictures) {
      const { recolor } = picture.layer;
      if (recolor === undefined || (recolor.match !== "key" && recolor.match !== "soft-key")) continue;
      yield* nearlyKey(figure, picture, recolor.key);
      yield* forgottenIn(figure, picture, recolor.key);
    }
  },
};

function* nearlyKey(
  figure: FigureFacts,
  { path, image, layer, sheet }: PictureFacts,
  key: readonly number[],
): Iterable<ArtSign> {
  const owner = ownerOf(figure);
  for (const packed of sheet.table) {
    const color = swapRedAndBlue(packed & 0xffffff);
    if (packed >>> 24 !== 255 || key.includes(color)) continue;
    const meant = key.find((each) =>
      [16, 8, 0].every((shift) => Math.abs(((each >> shift) & 255) - ((color >> shift) & 255)) <= near),
    );
    if (meant === undefined) continue;
    const pixels = new Uint32Array(image.data.buffer, image.data.byteOffset, image.width * image.height);
    const at = pixels.indexOf(packed);
    yield {
      cause: `color-near-key ${owner} ${path}`,
      owner,
      severity: "warning",
      path,
      finding: message("color-near-key", {
        owner,
        color: formatColor(color),
        channel: layer.recolor?.channel ?? "",
        x: at % image.width,
        y: Math.floor(at / image.width),
        count: pixels.filter((each) => each === packed).length,
      }),
      fix: message("mend-color-near-key", { color: formatColor(meant) }),
      at: undefined,
    };
  }
}

/** An animation whose pixels have none of the key colors, where those of others do. */
function* forgottenIn(
  figure: FigureFacts,
  { path, layer, sheet }: PictureFacts,
  key: readonly number[],
): Iterable<ArtSign> {
  const owner = ownerOf(figure);
  const isKey = Array.from(
    sheet.table,
    (color) => color >>> 24 === 255 && key.includes(swapRedAndBlue(color & 0xffffff)),
  );
  const found: { readonly animation: string; readonly drawn: number; readonly keyed: number }[] = [];
  for (const [animation, byFacing] of layer.art.frames) {
    let [drawn, keyed] = [0, 0];
    for (const frame of [...byFacing.values()].flat()) {
      if (frame === undefined || layer.images[frame.picture] !== path) continue;
      const { firsts, indices } = sheet.cells;
      for (let at = firsts[frame.cell] as number; at < (firsts[frame.cell + 1] as number); at += 1) {
        drawn += 1;
        if (isKey[indices[at] as number] === true) keyed += 1;
      }
    }
    if (drawn > 0) found.push({ animation, drawn, keyed });
  }
  const usual = Math.max(0, ...found.map(({ drawn, keyed }) => keyed / drawn));
  for (const { animation, drawn, keyed } of found)
    if (usual > 0.3 && keyed / drawn < usual / 8 && drawn > 16)
      yield {
        cause: `animation-off-key ${owner} ${animation}`,
        owner,
        severity: "warning",
        path,
        finding: message("animation-off-key", { owner, animation, channel: layer.recolor?.channel ?? "" }),
        fix: message("mend-animation-off-key", { key: key.map(formatColor) }),
        at: undefined,
      };
}

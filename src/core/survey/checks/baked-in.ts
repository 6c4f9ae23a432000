import { message } from "../../base/message.ts";
import { composeFrame } from "../../raster/compose-frame.ts";
import type { Image, Images } from "../../raster/image.ts";
import { type ArtCheck, type ArtSign, ownerOf, seenOn } from "../art/art-check.ts";
import type { DrawnMask, FigureFacts } from "../art/art-facts.ts";
import { overlap } from "../art/mask.ts";
import { maskAt } from "./floating.ts";

/** Parts whose pixels are in the body's own picture, so that they can never be taken off. */
export const bakedIn: ArtCheck = {
  name: "baked into the body",
  *find(figure, bare) {
    if (figure.part === undefined) return;
    const [first] = figure.series.flatMap(({ frames }) => frames).filter(({ mask }) => mask.count >= 24);
    if (first === undefined) return;
    const own = keyedFrame(figure, first);
    const body = keyedFrame(bare, first);
    let [same, drawn] = [0, 0];
    for (let at = 0; at < own.data.length; at += 4) {
      if ((own.data[at + 3] ?? 0) < 255) continue;
      drawn += 1;
      if ([0, 1, 2, 3].every((channel) => own.data[at + channel] === body.data[at + channel])) same += 1;
    }
    if (drawn < 24 || same < drawn * 0.9) return;
    const owner = ownerOf(figure);
    yield {
      cause: `part-baked-in ${owner}`,
      owner,
      severity: "warning",
      path: pathUnder(bare, first),
      finding: message("part-baked-in", { owner, body: figure.body.id }),
      fix: message("mend-part-baked-in"),
      at: seenOn(figure, first),
    } satisfies ArtSign;
  },
};

/** The picture of a body that shows most where a part is. */
function pathUnder({ layers }: FigureFacts, frame: DrawnMask): string {
  const [under] = layers.toSorted(
    (one, other) => overlap(maskAt(other, frame), frame.mask) - overlap(maskAt(one, frame), frame.mask),
  );
  return under?.path ?? "";
}

/** A frame in the colors of its pictures, without any of its channels. */
function keyedFrame({ look, pictures }: FigureFacts, { animation, facing, time }: DrawnMask): Image {
  const images: Images = new Map(pictures.map(({ path, image }) => [path, image]));
  const layers = look.layers.map((layer) => ({ ...layer, recolor: undefined }));
  return composeFrame({ ...look, layers }, images, { animation, facing, time });
}

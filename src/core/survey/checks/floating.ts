import { message } from "../../base/message.ts";
import { type ArtCheck, type ArtSign, ownerOf, place, seenOn } from "../art/art-check.ts";
import type { DrawnMask, FigureFacts } from "../art/art-facts.ts";
import { grown, type Mask, nothing, overlap } from "../art/mask.ts";

/** Frames in which a layer touches nothing of the figure, nor of its own part, although it does in nearly all others. */
export const floating: ArtCheck = {
  name: "floating",
  *find(figure, bare) {
    if (figure.part === undefined) return;
    const owner = ownerOf(figure);
    for (const layer of figure.layers) {
      const frames = layer.series.flatMap((each) => each.frames).filter(({ mask }) => mask.count > 0);
      const others = figure.layers.filter((each) => each !== layer);
      const apart = frames.filter((frame) => {
        const close = grown(frame.mask);
        const isOn = (mask: Mask) => mask.count > 0 && overlap(close, mask) > 0;
        return !isOn(maskAt(bare, frame)) && !others.some((each) => isOn(maskAt(each, frame)));
      });
      const [first] = apart;
      // What never touches anything is meant to hover.
      if (first === undefined || apart.length * 4 > frames.length) continue;
      yield {
        cause: `part-floats ${owner} ${layer.path} ${first.animation}`,
        owner,
        severity: "warning",
        path: layer.path,
        finding: message("part-floats", { owner, ...place(first), count: apart.length }),
        fix: message("mend-part-floats"),
        at: seenOn(figure, first),
      } satisfies ArtSign;
    }
  },
};

/** What a bare body, or a layer, shows in the same frame. */
export function maskAt({ series }: Pick<FigureFacts, "series">, { animation, facing, frame }: DrawnMask): Mask {
  const found = series.find((each) => each.animation === animation && each.facing === facing);
  const mask = found?.frames.find((each) => each.frame === frame)?.mask;
  return mask === undefined || mask.count === 0 ? nothing : mask;
}

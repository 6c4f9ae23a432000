import { message } from "../../base/message.ts";
import type { Rectangle } from "../../catalog/model/catalog.ts";
import { type ArtCheck, type ArtSign, type FigureTrace, sizeOf } from "../art/art-check.ts";

/** How much smaller than the smallest, or larger than the largest, a part is that was drawn for another scale. */
const much = 1.6;

/** Parts that are much smaller, or much larger, than all others of their slot, both across and down. */
export const otherScale: ArtCheck = {
  name: "another scale",
  *compare(figures) {
    for (const figure of figures) {
      const { owner, slot, pictures } = figure;
      const [picture] = pictures;
      const others = figures.filter((each) => each.slot === slot && each.owner !== owner).flatMap(sizes);
      const [own] = sizes(figure);
      if (slot === undefined || picture === undefined || own === undefined || others.length < 3) continue;
      const isSmaller = others.every(({ width, height }) => own.width * much < width && own.height * much < height);
      const isLarger = others.every(({ width, height }) => own.width > width * much && own.height > height * much);
      if (!isSmaller && !isLarger) continue;
      const [width, height] = [Math.round(own.width), Math.round(own.height)];
      yield {
        cause: `part-scale ${owner}`,
        owner,
        severity: "warning",
        path: picture.path,
        finding: message(isSmaller ? "part-small" : "part-large", { owner, slot, width, height }),
        fix: message("mend-part-scale"),
        at: undefined,
      } satisfies ArtSign;
    }
  },
};

/** The size of a part, all its pictures together; none for one that shows nothing. */
function sizes({ pictures }: FigureTrace): readonly Pick<Rectangle, "width" | "height">[] {
  return pictures.length === 0 ? [] : [sizeOf(pictures)];
}

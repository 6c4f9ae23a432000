import { message } from "../../base/message.ts";
import type { Rectangle } from "../../catalog/model/catalog.ts";
import type { Image } from "../../raster/image.ts";
import { type ArtCheck, type ArtSign, ownerOf } from "../art/art-check.ts";

/** How many pixels in a row at the edge of a cell are more than a fingertip. */
const long = 4;

/** Drawings that go on beyond the edge of their cell: cut off, or laid out otherwise than was said. */
export const cutByFrame: ArtCheck = {
  name: "cut by the frame",
  *find(figure) {
    const owner = ownerOf(figure);
    for (const { path, layer, image } of figure.pictures) {
      // Trimmed cells touch all of their edges, and so does what is meant to fill a cell of its own.
      if (layer.art.grid === undefined || layer.attach !== undefined) continue;
      const cells = layer.art.pictures[0]?.cells ?? [];
      const cut = cells.filter((cell) => longestAtEdge(image, cell) >= long);
      const [first] = cut;
      if (first === undefined) continue;
      yield {
        cause: `cut-by-frame ${owner}`,
        owner,
        severity: "warning",
        path,
        finding: message("cut-by-frame", { owner, x: first.x, y: first.y, count: cut.length }),
        fix: message("mend-cut-by-frame"),
        at: undefined,
      } satisfies ArtSign;
    }
  },
};

/** The longest run of visible pixels along an edge of a cell. */
function longestAtEdge({ data, width: stride }: Image, { x, y, width, height }: Rectangle): number {
  const isVisible = (column: number, row: number) => (data[(row * stride + column) * 4 + 3] ?? 0) >= 128;
  let longest = 0;
  const along = (count: number, at: (step: number) => boolean) => {
    let run = 0;
    for (let step = 0; step < count; step += 1) {
      run = at(step) ? run + 1 : 0;
      longest = Math.max(longest, run);
    }
  };
  along(width, (step) => isVisible(x + step, y));
  along(width, (step) => isVisible(x + step, y + height - 1));
  along(height, (step) => isVisible(x, y + step));
  along(height, (step) => isVisible(x + width - 1, y + step));
  return longest;
}

import { getOrInsert } from "../../base/get-or-insert.ts";
import { message } from "../../base/message.ts";
import type { ArtCheck, ArtSign, FigureTrace, PictureTrace } from "../art/art-check.ts";
import { distanceIn } from "./elsewhere.ts";

interface Use {
  readonly figure: FigureTrace;
  readonly picture: PictureTrace;
}

/** Pictures of one part that are, pixel by pixel, those of another. */
export const samePicture: ArtCheck = {
  name: "the same picture",
  *compare(figures) {
    const uses = new Map<string, Use[]>();
    for (const figure of figures)
      for (const picture of figure.pictures) getOrInsert(uses, picture.content, () => []).push({ figure, picture });
    const distance = ({ figure, picture }: Use) => distanceIn(figures, figure.slot, picture);
    for (const all of uses.values()) {
      // The one that lies where the others of its slot do is right.
      const [right, ...others] = all.toSorted((one, other) => distance(one) - distance(other));
      for (const { figure, picture } of others) {
        if (right === undefined || figure.owner === right.figure.owner || picture.path === right.picture.path) continue;
        const { owner } = figure;
        yield {
          cause: `same-picture ${owner} ${right.figure.owner}`,
          owner,
          severity: "warning",
          path: picture.path,
          finding: message("same-picture", { owner, other: right.figure.owner, path: right.picture.path }),
          fix: message("mend-same-picture"),
          at: undefined,
        } satisfies ArtSign;
      }
    }
  },
};

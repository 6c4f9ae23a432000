import { message } from "../../base/message.ts";
import type { Point, Rectangle } from "../../catalog/model/catalog.ts";
import type { ArtCheck, ArtSign, FigureTrace, PictureTrace } from "../art/art-check.ts";

/** How far from the others of its slot a picture lies that is not where it belongs, in pixels. */
const far = 12;

/** Pictures that lie elsewhere than all others of their slot: moved, or drawn at another size. */
export const elsewhere: ArtCheck = {
  name: "elsewhere than others",
  *compare(figures) {
    for (const { owner, slot, pictures } of figures) {
      const others = figures.filter((each) => each.slot === slot && each.owner !== owner);
      if (slot === undefined || others.length < 3) continue;
      const usual = Math.max(
        ...others.flatMap((each) => each.pictures.map((other) => distanceIn(figures, slot, other))),
      );
      for (const picture of pictures) {
        const distance = distanceIn(figures, slot, picture);
        if (distance < far || distance < usual * 1.5) continue;
        // What lies on a larger picture of its part belongs there: a strap, a buckle.
        if (pictures.some((each) => areaOf(each.box) > areaOf(picture.box) && isOn(picture.box, each.box))) continue;
        yield {
          cause: `part-away ${owner} ${picture.path}`,
          owner,
          severity: "warning",
          path: picture.path,
          finding: message("part-away", { owner, slot, distance: Math.round(distance) }),
          fix: message("mend-part-away"),
          at: undefined,
        } satisfies ArtSign;
      }
    }
  },
};

function areaOf({ width, height }: Rectangle): number {
  return width * height;
}

function isOn(one: Rectangle, other: Rectangle): boolean {
  const isAcross = one.x < other.x + other.width && other.x < one.x + one.width;
  return isAcross && one.y < other.y + other.height && other.y < one.y + one.height;
}

/** How far a picture lies from the middle of most pictures of a slot, in pixels. */
export function distanceIn(figures: readonly FigureTrace[], slot: string | undefined, { box }: PictureTrace): number {
  const middles = figures.filter((each) => each.slot === slot).flatMap(({ pictures }) => pictures.map(middleOf));
  const median = (list: readonly number[]) => list.toSorted((one, other) => one - other)[list.length >> 1] ?? 0;
  const { x, y } = middleOf({ box });
  return Math.hypot(x - median(middles.map((each) => each.x)), y - median(middles.map((each) => each.y)));
}

function middleOf({ box }: Pick<PictureTrace, "box">): Point {
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
}

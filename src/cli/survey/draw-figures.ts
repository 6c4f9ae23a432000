import { MantleError } from "../../core/base/problem.ts";
import type { Catalog } from "../../core/catalog/model/catalog.ts";
import { iconLook } from "../../core/look/icon-look.ts";
import { resolveLook } from "../../core/look/resolve-look.ts";
import type { Image } from "../../core/raster/image.ts";
import { encodePng } from "../../core/raster/png/encode-png.ts";
import type { CatalogPlace } from "../../node/catalog-place.ts";
import { loadImages } from "../../node/load-images.ts";
import { type Drawer, drawerOf } from "../drawn-character.ts";
import type { Figure } from "./figures.ts";

/** A picture of a figure, and the options of `mantle draw` that make it. */
export interface Picture {
  readonly width: number;
  readonly height: number;
  /** A PNG as the text of a link. */
  readonly source: string;
  readonly options: string;
  /** The facing it shows; `undefined` for an icon. */
  readonly facing: string | undefined;
}

export interface DrawnFigure {
  readonly figure: Figure;
  readonly pictures: readonly Picture[];
}

/**
 * Draws figures: a part by its icon, and everybody else in each facing that is drawn, standing in the first animation.
 *
 * @param progress - is called after each figure, with how many are drawn.
 */
export async function drawFigures(
  place: CatalogPlace,
  catalog: Catalog,
  figures: readonly Figure[],
  progress: (done: number) => void,
): Promise<readonly DrawnFigure[]> {
  const looks = figures.map(({ character, icon }) =>
    icon === undefined ? resolveLook(catalog, character) : iconLook(catalog, character, icon),
  );
  const images = await loadImages(place, looks);
  const drawn: DrawnFigure[] = [];
  for (const [number, figure] of figures.entries()) {
    const { character } = figure;
    const drawer = await drawerOf(place, { catalog, character, look: resolveLook(catalog, character), images }, {});
    drawn.push({ figure, pictures: await picturesOf(catalog, figure, drawer) });
    progress(number + 1);
  }
  return drawn;
}

async function picturesOf(catalog: Catalog, { character, icon }: Figure, drawer: Drawer): Promise<readonly Picture[]> {
  if (icon !== undefined) return iconOf(icon, drawer);
  const rig = catalog.bodies.get(character.body)?.rig;
  const [animation] = rig?.animations.keys() ?? [];
  if (rig === undefined || animation === undefined) return [];
  return [...rig.facings.values()]
    .filter(({ mirrored }) => !mirrored)
    .map(({ id: facing }) =>
      pictureOf(drawer.frame({ animation, facing, time: 0 }, 1), `--animation ${animation} --facing ${facing}`, facing),
    );
}

async function iconOf(part: string, drawer: Drawer): Promise<readonly Picture[]> {
  try {
    return [pictureOf(await drawer.icon(part, 1), `--icon ${part}`, undefined)];
  } catch (error) {
    // It is seen in other animations only, or under something of its own.
    if (error instanceof MantleError && error.code === "nothing-to-show") return [];
    throw error;
  }
}

function pictureOf(image: Image, options: string, facing: string | undefined): Picture {
  const source = `data:image/png;base64,${Buffer.from(encodePng(image)).toString("base64")}`;
  return { width: image.width, height: image.height, source, options, facing };
}

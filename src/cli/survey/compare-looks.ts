import { getOrInsert } from "../../core/base/get-or-insert.ts";
import { limits } from "../../core/base/limits.ts";
import type { Body, Catalog, Part } from "../../core/catalog/model/catalog.ts";
import type { Character } from "../../core/character/character.ts";
import { createCharacter } from "../../core/edits/create-character.ts";
import type { Look, Moment } from "../../core/look/look.ts";
import { timedFrames } from "../../core/look/moments.ts";
import { resolveLook } from "../../core/look/resolve-look.ts";
import type { Image } from "../../core/raster/image.ts";
import { fitsBody } from "../../core/rules/fits-body.ts";
import { bareLook, partsLook } from "../../core/survey/art/art-facts.ts";
import { comparePictures } from "../../core/survey/compare/compare-pictures.ts";
import { CatalogFolder, nothingIfUnreadable } from "../../node/catalog-folder.ts";
import type { CatalogPlace } from "../../node/catalog-place.ts";
import { loadImages } from "../../node/load-images.ts";
import { type Drawer, drawerOf } from "../drawn-character.ts";

/** One of two versions of a catalog. */
export interface Version {
  readonly place: CatalogPlace;
  readonly catalog: Catalog;
}

/** How something looked, and how it looks now, where that differs most. */
export interface LookChange {
  readonly moment: Moment;
  /** In how many frames it differs, of how many, and in how many pixels of this one. */
  readonly frames: number;
  readonly of: number;
  readonly pixels: number;
  readonly before: Image;
  readonly after: Image;
  readonly difference: Image;
}

/** What looks otherwise, of a body or a part on it. */
export interface PartChange extends LookChange {
  readonly body: string;
  /** `undefined` for the bare body. */
  readonly part: string | undefined;
}

/** Draws two versions side by side. Pictures are read once. */
export class LookComparison {
  readonly #older: Version;
  readonly #newer: Version;
  /** By version, the pictures that only it has; and those that both have. */
  readonly #images = new Map<CatalogPlace, Map<string, Image>>();
  readonly #shared = new Map<string, Image>();
  readonly #sameFiles = new Map<string, Promise<boolean>>();

  constructor(older: Version, newer: Version) {
    this.#older = older;
    this.#newer = newer;
  }

  /**
   * Compares every part on every body that both versions have, in every frame; in three dimensions, at the beginning of every animation. What is
   * said in the same way and has the same files is not drawn.
   *
   * @param progress - is called with how many of all were looked at.
   */
  async parts(progress: (done: number, all: number) => void): Promise<readonly PartChange[]> {
    const found: PartChange[] = [];
    const all = this.#common();
    for (const [number, { body, part, looks }] of all.entries()) {
      progress(number, all.length);
      if (textOf(looks[0]) === textOf(looks[1]) && (await this.#haveSameFiles(looks[1]))) continue;
      const bare = createCharacter(this.#newer.catalog, { body });
      const change = await this.#compare(bare, looks, momentsOf(looks));
      if (change !== undefined) found.push({ body, part, ...change });
    }
    return found;
  }

  /** Each body, and each part on each body that it fits, where both versions have it. */
  #common(): readonly {
    readonly body: string;
    readonly part: string | undefined;
    readonly looks: readonly [Look, Look];
  }[] {
    const [older, newer] = [this.#older.catalog, this.#newer.catalog];
    return [...newer.bodies].flatMap(([body, after]) => {
      const before = older.bodies.get(body);
      if (before === undefined) return [];
      const parts = [...newer.parts.values()].flatMap((part) => {
        const was = older.parts.get(part.id);
        return was !== undefined && fitsBody(part, body) && fitsBody(was, body) ? [{ was, part }] : [];
      });
      return [undefined, ...parts].map((each) => ({
        body,
        part: each?.part.id,
        looks: [lookOf(older, before, each?.was), lookOf(newer, after, each?.part)] as const,
      }));
    });
  }

  /** Compares a whole character, standing, in each facing that is drawn; `undefined` where it looks the same. */
  async character(character: Character): Promise<LookChange | undefined> {
    if (!this.#newer.catalog.bodies.has(character.body) || !this.#older.catalog.bodies.has(character.body))
      return undefined;
    const looks = [resolveLook(this.#older.catalog, character), resolveLook(this.#newer.catalog, character)] as const;
    const [first] = looks[1].rig.animations.keys();
    return this.#compare(
      character,
      looks,
      momentsOf(looks).filter(({ animation, time }) => animation === first && time === 0),
    );
  }

  async #compare(
    character: Character,
    [was, is]: readonly [Look, Look],
    moments: readonly Moment[],
  ): Promise<LookChange | undefined> {
    const before = await this.#drawer(this.#older, character, was);
    const after = await this.#drawer(this.#newer, character, is);
    let most: LookChange | undefined;
    let frames = 0;
    for (const moment of moments) {
      const [one, other] = [before.frame(moment, 1), after.frame(moment, 1)];
      const found = comparePictures(one, other);
      if (found === undefined) continue;
      frames += 1;
      if (found.count <= (most?.pixels ?? 0)) continue;
      const { count: pixels, image: difference } = found;
      most = { moment, frames, of: moments.length, pixels, before: one, after: other, difference };
    }
    return most && { ...most, frames };
  }

  async #drawer({ place, catalog }: Version, character: Character, look: Look): Promise<Drawer> {
    const known = new Map(this.#images.get(place));
    for (const [path, image] of this.#shared) known.set(path, image);
    const images = await loadImages(place, [look], known);
    const own = getOrInsert(this.#images, place, () => new Map<string, Image>());
    for (const [path, image] of images) ((await this.#isSameFile(path)) ? this.#shared : own).set(path, image);
    return drawerOf(place, { catalog, character, look, images }, {});
  }

  /** Whether the pictures and models that a look is drawn from are the same in both folders. */
  async #haveSameFiles({ layers, meshes }: Look): Promise<boolean> {
    const files = [...layers.flatMap(({ images }) => images), ...meshes.map(({ file }) => file)];
    for (const file of files) if (!(await this.#isSameFile(file))) return false;
    return true;
  }

  #isSameFile(file: string): Promise<boolean> {
    const known = this.#sameFiles.get(file);
    if (known !== undefined) return known;
    const read = ({ place }: Version) =>
      new CatalogFolder(place).read(file, { bytes: limits.pictureBytes }).catch(nothingIfUnreadable);
    const same = Promise.all([read(this.#older), read(this.#newer)]).then(
      ([was, is]) => was !== undefined && is !== undefined && was.equals(is),
    );
    this.#sameFiles.set(file, same);
    return same;
  }
}

const texts = new WeakMap<object, string>();

/** All that a look says, but for its files. What looks share is written once. */
function textOf({ rig, points, key: _, ...rest }: Look): string {
  const write = (value: object) =>
    JSON.stringify(value, (_, each) => (each instanceof Map || each instanceof Set ? [...each] : each));
  const kept = (value: object) => getOrInsert(texts, value, () => write(value));
  return [kept(rig), kept(points), write(rest)].join("\n");
}

function lookOf(catalog: Catalog, body: Body, part: Part | undefined): Look {
  return part === undefined ? bareLook(catalog, body) : partsLook(catalog, body, [part]);
}

/** Every frame that both versions have, in the facings that are drawn. */
function momentsOf([was, is]: readonly [Look, Look]): readonly Moment[] {
  const facings = [...is.rig.facings.values()].filter(({ id, mirrored }) => !mirrored && was.rig.facings.has(id));
  const isModeled = is.layers.length === 0 && is.meshes.length > 0;
  return [...is.rig.animations.values()]
    .filter(({ id }) => was.rig.animations.has(id))
    .flatMap((animation) => {
      const times = isModeled
        ? [0]
        : [...new Map(timedFrames(animation).map(({ frame, time }) => [frame, time])).values()];
      return facings.flatMap(({ id: facing }) => times.map((time) => ({ animation: animation.id, facing, time })));
    });
}

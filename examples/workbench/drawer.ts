import { composeFrame, type Image, type Look, type Moment } from "zealous-mantle";
import type { FreshImageLoader } from "zealous-mantle/browser";
import { drawModel, externalFiles, prepareModel } from "zealous-mantle/model";

/** Draws one frame of a look. @param scale - pixels for each of the rig's frame, for a model that is not of pixels; 1 when left out. */
export type DrawFrame = (moment: Moment, scale?: number) => Image;

/** Makes what draws looks: of their pictures, or of their models where they have no pictures. */
export class Drawer {
  readonly #loader: FreshImageLoader;
  readonly #url: string;
  readonly #files = new Map<string, Promise<Uint8Array>>();
  readonly #models = new Map<string, Promise<DrawFrame>>();

  /** @param url - of the folder of the catalog, whose models are fetched. */
  constructor(loader: FreshImageLoader, url: string) {
    this.#loader = loader;
    this.#url = url;
  }

  /** What draws a look, once everything it needs is there. */
  async prepare(look: Look): Promise<DrawFrame> {
    if (look.layers.length > 0 || look.skeleton === undefined) {
      await this.#loader.load(look);
      return (moment) => composeFrame(look, this.#loader.images, moment);
    }
    const known = this.#models.get(look.key) ?? this.#prepareModel(look);
    this.#models.set(look.key, known);
    return known;
  }

  async #prepareModel(look: Look): Promise<DrawFrame> {
    const files = new Map<string, Uint8Array>();
    for (const file of new Set([look.skeleton ?? "", ...look.meshes.map((mesh) => mesh.file)])) {
      const bytes = await this.#fetch(file);
      files.set(file, bytes);
      for (const uri of externalFiles(bytes)) {
        const path = new URL(uri, new URL(file, this.#url)).href.slice(this.#url.length);
        files.set(path, await this.#fetch(path));
      }
    }
    const model = await prepareModel(look, files);
    return (moment, scale = 1) => drawModel(model, moment, { scale: look.rig.crisp ? 1 : scale });
  }

  #fetch(file: string): Promise<Uint8Array> {
    const known =
      this.#files.get(file) ??
      fetch(new URL(file, this.#url)).then(async (response) => new Uint8Array(await response.arrayBuffer()));
    this.#files.set(file, known);
    return known;
  }
}

import { Loader, LoadingManager, type Material, Texture } from "three";
import { besideModel } from "../../core/model/beside-model.ts";

/** Textures in files of their own, each decoded and kept on the graphics card once, whichever models use it. */
export class SharedTextures {
  readonly #load: (file: string) => Promise<Uint8Array>;
  readonly #shared = new Map<
    string,
    { readonly texture: Promise<Texture<ImageBitmap>>; readonly models: Set<string> }
  >();

  constructor(load: (file: string) => Promise<Uint8Array>) {
    this.#load = load;
  }

  /** What the loader of a model asks for textures. @param model - its path in the catalog folder. */
  managerFor(model: string): LoadingManager {
    const manager = new LoadingManager();
    const shared = this;
    class SharedLoader extends Loader<Texture> {
      override load(
        uri: string,
        onLoad: (texture: Texture) => void,
        _: unknown,
        onError?: (error: unknown) => void,
      ): void {
        // Every model has its own settings for it; the picture itself is one.
        shared.#use(besideModel(model, uri), model).then((texture) => onLoad(texture.clone()), onError);
      }
    }
    return manager.addHandler(/^(?!data:)/, new SharedLoader());
  }

  #use(file: string, model: string): Promise<Texture<ImageBitmap>> {
    const known = this.#shared.get(file) ?? { texture: this.#open(file), models: new Set() };
    this.#shared.set(file, known);
    known.models.add(model);
    known.texture.catch(() => this.#shared.delete(file));
    return known.texture;
  }

  async #open(file: string): Promise<Texture<ImageBitmap>> {
    const bytes = await this.#load(file);
    const plain = { colorSpaceConversion: "none", premultiplyAlpha: "none" } as const;
    const texture = new Texture(await createImageBitmap(new Blob([bytes as Uint8Array<ArrayBuffer>]), plain));
    texture.needsUpdate = true;
    return texture;
  }

  /** Gives back what only this model used. */
  async release(model: string): Promise<void> {
    for (const [file, { texture, models }] of this.#shared) {
      if (!models.delete(model) || models.size > 0) continue;
      this.#shared.delete(file);
      const { image } = await texture;
      image.close();
    }
  }
}

/** Gives back a material with its textures. */
export function disposeWhole(material: Material): void {
  for (const value of Object.values(material)) if (value instanceof Texture) value.dispose();
  material.dispose();
}

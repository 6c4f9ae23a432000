import { BufferImageSource, Rectangle, Texture } from "pixi.js";
import type { AtlasPage } from "../../core/raster/atlas-page.ts";
import type { Atlas, AtlasFrame } from "../../core/raster/open-atlas.ts";

/** The textures of an atlas: a source for each page, and a texture for each frame. */
export class FrameTextures {
  readonly #atlas: Atlas;
  readonly #sources = new Map<AtlasPage, BufferImageSource>();
  readonly #textures = new Map<AtlasFrame, Texture>();

  constructor(atlas: Atlas) {
    this.#atlas = atlas;
    atlas.on("drop", (frame) => {
      this.#textures.get(frame)?.destroy();
      this.#textures.delete(frame);
    });
    atlas.on("drop-page", (page) => {
      this.#sources.get(page)?.destroy();
      this.#sources.delete(page);
    });
  }

  /** The texture of a frame; an empty one where nothing is seen. */
  of(frame: AtlasFrame): Texture {
    const known = this.#textures.get(frame);
    if (known !== undefined) return known;
    const { page, x, y, width, height } = frame;
    if (page === undefined) return Texture.EMPTY;
    const made = new Texture({ source: this.#sourceOf(page), frame: new Rectangle(x, y, width, height) });
    this.#textures.set(frame, made);
    return made;
  }

  /** Hands over the rows that changed. */
  upload(): void {
    this.#atlas.flush((page, { y, height }) => {
      this.#sources.get(page)?.update(y * page.size, (y + height) * page.size);
    });
  }

  #sourceOf(page: AtlasPage): BufferImageSource {
    const known = this.#sources.get(page);
    if (known !== undefined) return known;
    const { data, size } = page;
    const made = new BufferImageSource({
      resource: data,
      width: size,
      height: size,
      format: "rgba8unorm",
      alphaMode: "premultiplied-alpha",
      scaleMode: "nearest",
    });
    this.#sources.set(page, made);
    return made;
  }
}

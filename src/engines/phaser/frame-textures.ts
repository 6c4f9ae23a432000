import type { Game, Renderer, Textures } from "phaser";
import type { Rig } from "../../core/catalog/model/catalog.ts";
import type { AtlasPage } from "../../core/raster/atlas-page.ts";
import type { Atlas, AtlasFrame } from "../../core/raster/open-atlas.ts";

/** A page as Phaser has it: a canvas, which restores it when the graphics card forgets it, and its texture. */
interface Page {
  readonly texture: Textures.Texture;
  readonly context: CanvasRenderingContext2D;
  readonly image: ImageData;
}

/** The textures of an atlas: one for each page, with a frame for each frame of a figure that is as large as that of its rig. */
export class FrameTextures {
  readonly #atlas: Atlas;
  readonly #game: Game;
  readonly #key: string;
  readonly #pages = new Map<AtlasPage, Page>();
  readonly #frames = new Map<AtlasFrame, Textures.Frame>();
  /** How many names were given: pages and frames that are gone leave theirs to nobody. */
  #count = 0;

  constructor(atlas: Atlas, game: Game, key: string) {
    this.#atlas = atlas;
    this.#game = game;
    this.#key = key;
    atlas.on("drop", (frame) => {
      const made = this.#frames.get(frame);
      this.#frames.delete(frame);
      made?.texture.remove(made.name);
    });
    atlas.on("drop-page", (page) => {
      const made = this.#pages.get(page);
      this.#pages.delete(page);
      if (made !== undefined) game.textures.remove(made.texture);
    });
  }

  /** The game is gone, and its textures with it. */
  close(): void {
    this.#frames.clear();
    this.#pages.clear();
  }

  /** The frame of a figure on a rig; a blank one where nothing is seen. */
  of(frame: AtlasFrame | undefined, rig: Rig | undefined): Textures.Frame {
    const known = frame && this.#frames.get(frame);
    if (known !== undefined) return known;
    if (frame?.page === undefined || rig === undefined) return this.blank(rig);
    const { texture } = this.#pageOf(frame.page);
    const { x, y, width, height, left, top } = frame;
    const made = texture.add(this.#name("frame"), 0, x, y, width, height) as Textures.Frame;
    made.setTrim(rig.frame.width, rig.frame.height, left + rig.origin.x, top + rig.origin.y, width, height);
    this.#frames.set(frame, made);
    return made;
  }

  /** A frame of the size of a rig in which nothing is seen. */
  blank(rig: Rig | undefined): Textures.Frame {
    const { width, height } = rig?.frame ?? { width: 1, height: 1 };
    const { textures } = this.#game;
    const key = `${this.#key} blank ${width}×${height}`;
    const known = textures.exists(key) ? textures.get(key) : undefined;
    const texture = known ?? (textures.create(key, blankCanvas(1), 1, 1) as Textures.Texture);
    const frame = known?.get("blank") ?? (texture.add("blank", 0, 0, 0, 1, 1) as Textures.Frame);
    if (known === undefined) frame.setTrim(width, height, 0, 0, 1, 1);
    return frame;
  }

  /** Hands over the rows that changed. */
  upload(): void {
    this.#atlas.flush((page, { x, y, width, height }) => {
      const known = this.#pages.get(page);
      if (known === undefined) return;
      known.context.putImageData(known.image, 0, 0, x, y, width, height);
      const wrapper = known.texture.source[0]?.glTexture;
      if (wrapper !== undefined && wrapper !== null) uploadRows(this.#game.renderer, wrapper, page, y, height);
    });
  }

  #pageOf(page: AtlasPage): Page {
    const known = this.#pages.get(page);
    if (known !== undefined) return known;
    const canvas = blankCanvas(page.size);
    const context = canvas.getContext("2d") as CanvasRenderingContext2D;
    // The same bytes, and no copy of them. What was drawn before anybody was shown of it goes along.
    const image = new ImageData(page.data as Uint8ClampedArray<ArrayBuffer>, page.size, page.size);
    context.putImageData(image, 0, 0);
    const texture = this.#game.textures.create(this.#name("page"), canvas, page.size, page.size) as Textures.Texture;
    const made = { texture, context, image };
    this.#pages.set(page, made);
    return made;
  }

  #name(kind: string): string {
    this.#count += 1;
    return `${this.#key} ${kind} ${this.#count}`;
  }
}

function blankCanvas(size: number): HTMLCanvasElement {
  const canvas = document.createElement("canvas");
  canvas.width = size;
  canvas.height = size;
  return canvas;
}

/** Writes whole rows of a page into its texture on the graphics card, and leaves everything else there as it was. */
function uploadRows(
  renderer: Game["renderer"],
  wrapper: Renderer.WebGL.Wrappers.WebGLTextureWrapper,
  { data, size }: AtlasPage,
  y: number,
  height: number,
): void {
  const { gl } = renderer as Renderer.WebGL.WebGLRenderer;
  if (gl.isContextLost() || wrapper.webGLTexture === null) return;
  const { flipY } = wrapper;
  const rows = new Uint8Array(data.buffer, data.byteOffset + y * size * 4, height * size * 4);
  const bound: WebGLTexture | null = gl.getParameter(gl.TEXTURE_BINDING_2D);
  const flags = [gl.UNPACK_FLIP_Y_WEBGL, gl.UNPACK_PREMULTIPLY_ALPHA_WEBGL] as const;
  const before = flags.map((flag): boolean => gl.getParameter(flag));
  gl.pixelStorei(gl.UNPACK_FLIP_Y_WEBGL, flipY);
  gl.pixelStorei(gl.UNPACK_PREMULTIPLY_ALPHA_WEBGL, true);
  gl.bindTexture(gl.TEXTURE_2D, wrapper.webGLTexture);
  gl.texSubImage2D(gl.TEXTURE_2D, 0, 0, flipY ? size - y - height : y, size, height, gl.RGBA, gl.UNSIGNED_BYTE, rows);
  gl.bindTexture(gl.TEXTURE_2D, bound);
  for (const [at, flag] of flags.entries()) gl.pixelStorei(flag, before[at] ?? false);
}

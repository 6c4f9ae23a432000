import { Loader } from "phaser";
import type { Look } from "../../core/look/look.ts";
import type { PictureLoader } from "../shared/drawn.ts";

/** The pictures of a look, as a file of a scene's loader. */
export class PictureFile extends Loader.File {
  /** Why it could not be fetched; for listeners to the loader's `"loaderror"`, which get this file. */
  error: unknown;
  readonly #pictures: PictureLoader;
  readonly #look: Look;

  constructor(loader: Loader.LoaderPlugin, pictures: PictureLoader, look: Look) {
    super(loader, { type: "look", key: look.key, url: "", cache: false });
    this.#pictures = pictures;
    this.#look = look;
  }

  override load(): void {
    const end = (isThere: boolean) => this.loader.nextFile(this, isThere);
    this.#pictures.load(this.#look).then(
      () => end(true),
      (error: unknown) => {
        this.error = error;
        end(false);
      },
    );
  }

  override addToCache(): void {
    // The pictures are kept where they were fetched.
  }
}

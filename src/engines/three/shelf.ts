import { type AnimationClip, Color, type Material, type Object3D } from "three";
import { type GLTF, GLTFLoader } from "three/examples/jsm/loaders/GLTFLoader.js";
import type { Look, LookMesh } from "../../core/look/look.ts";
import { standsFor } from "../../core/model/shading.ts";
import { meshesOf, type SharedMesh } from "./parts.ts";

/** What figures share: each file is loaded once, and each material exists once for each ramp. */
export class Shelf {
  readonly #load: LoadFile;
  readonly #files = new Map<string, Promise<ShelvedFile>>();
  readonly #uses = new Map<string, number>();
  readonly #materials = new Map<string, Material>();

  /** @param load - gives the bytes of a glTF file, by its path in the catalog folder. */
  constructor(load: LoadFile) {
    this.#load = load;
  }

  /** How many files and materials are kept, so that a game can see that nothing piles up. */
  get size(): { readonly files: number; readonly materials: number } {
    return { files: this.#files.size, materials: this.#materials.size };
  }

  /** Loads what a look needs, before it is shown. */
  async ready({ skeleton, meshes }: Look): Promise<void> {
    const files = [...meshes.map(({ file }) => file), ...(skeleton === undefined ? [] : [skeleton])];
    await Promise.all(files.map((file) => this.file(file)));
  }

  /** @internal */
  async file(file: string): Promise<ShelvedFile> {
    const known = this.#files.get(file);
    if (known !== undefined) return known;
    const opening = this.#open(file);
    this.#files.set(file, opening);
    // What could not be loaded is asked for again the next time.
    opening.catch(() => this.#files.delete(file));
    return opening;
  }

  async #open(file: string): Promise<ShelvedFile> {
    const bytes = await this.#load(file);
    const copy = bytes.slice().buffer;
    const { scene, animations, parser } = await new GLTFLoader().parseAsync(copy as ArrayBuffer, "");
    return { scene, animations, meshes: meshesOf({ scene, animations, parser } as GLTF) };
  }

  /** Marks a file as used, or as used once less. @internal */
  use(file: string, by: 1 | -1): void {
    this.#uses.set(file, (this.#uses.get(file) ?? 0) + by);
  }

  /** The material of a mesh in the colors of a look, the same for all who have them. @internal */
  material({ material }: SharedMesh, { file, recolors }: LookMesh): Material {
    const recolor = recolors.get(material.name) ?? recolors.get("");
    if (recolor === undefined) return material;
    const key = [file, material.uuid, ...recolor.colors].join(" ");
    const known = this.#materials.get(key);
    if (known !== undefined) return known;
    const made = material.clone();
    if ("color" in made && made.color instanceof Color) made.color.setHex(standsFor(recolor.colors, material.userData));
    made.userData = { ...made.userData, file, ramp: recolor.colors };
    this.#materials.set(key, made);
    return made;
  }

  /** Gives back what no figure uses now. What is kept until then makes changing back and forth cost nothing. */
  async trim(): Promise<void> {
    for (const [file, opening] of this.#files) {
      if ((this.#uses.get(file) ?? 0) > 0) continue;
      this.#files.delete(file);
      this.#uses.delete(file);
      for (const [key, material] of this.#materials) {
        if (material.userData["file"] !== file) continue;
        material.dispose();
        this.#materials.delete(key);
      }
      for (const { geometry, material } of (await opening).meshes) {
        geometry.dispose();
        material.dispose();
      }
    }
  }
}

/** Gives the bytes of a file, by its path in the catalog folder. */
export type LoadFile = (file: string) => Promise<Uint8Array>;

/** A file that was loaded. */
export interface ShelvedFile {
  readonly scene: Object3D;
  readonly animations: readonly AnimationClip[];
  readonly meshes: readonly SharedMesh[];
}

import {
  type AnimationClip,
  Color,
  DoubleSide,
  type Material,
  type MeshStandardMaterial,
  type Object3D,
  Texture,
} from "three";
import { type GLTF, GLTFLoader } from "three/examples/jsm/loaders/GLTFLoader.js";
import type { Look, LookMesh } from "../../core/look/look.ts";
import { type MaterialFacts, type Shading, shadingOf, standsFor } from "../../core/model/shading.ts";
import { withOutward } from "./outward.ts";
import { meshesOf, type SharedMesh } from "./parts.ts";
import { inkMaterial, rampMaterial, type Surface } from "./ramp-material.ts";
import { disposeWhole, SharedTextures } from "./shared-textures.ts";

/** What figures share: each file is loaded once, and each material exists once for each ramp. */
export class ModelCache {
  readonly #load: LoadFile;
  readonly #options: ModelCacheOptions;
  readonly #files = new Map<string, Promise<ShelvedFile>>();
  readonly #uses = new Map<string, number>();
  readonly #materials = new Map<string, Material>();
  readonly #textures: SharedTextures;

  /** @param load - gives the bytes of a glTF file, or of a texture beside it, by its path in the catalog folder. */
  constructor(load: LoadFile, options: ModelCacheOptions = {}) {
    this.#load = load;
    this.#textures = new SharedTextures(load);
    this.#options = options;
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
    const loader = new GLTFLoader(this.#textures.managerFor(file));
    const { scene, animations, parser } = await loader.parseAsync(copy as ArrayBuffer, "");
    return { scene, animations, meshes: meshesOf({ scene, animations, parser } as GLTF) };
  }

  /** Marks a file as used, or as used once less. @internal */
  use(file: string, by: 1 | -1): void {
    this.#uses.set(file, (this.#uses.get(file) ?? 0) + by);
  }

  /** The material of a mesh in the colors of a look, the same for all who have them. @internal */
  material(shared: SharedMesh, mesh: LookMesh): Material {
    const { material } = shared;
    if (this.#options.shading === "ramps") {
      const shading = shadingOf(factsOf(material), mesh);
      const surface = surfaceOf(shared);
      return this.#kept(mesh, ["ramp", ...Object.values(surface).map(idOf), ...keyOf(shading)], () =>
        rampMaterial(shading, surface),
      );
    }
    const recolor = mesh.recolors.get(material.name) ?? mesh.recolors.get("");
    if (recolor === undefined) return material;
    return this.#kept(mesh, [material.uuid, ...recolor.colors], () => {
      const made = material.clone();
      if ("color" in made && made.color instanceof Color)
        made.color.setHex(standsFor(recolor.colors, material.userData));
      made.userData = { ...made.userData, ramp: recolor.colors };
      return made;
    });
  }

  /**
   * What draws the lines around a mesh, thin ones and the outline; none where each material has its own shading, and around what shines, is flat or has holes.
   *
   * @param width - of the outline, in units of the model. @internal
   */
  inks({ material, geometry }: SharedMesh, mesh: LookMesh, width: number): readonly Material[] {
    if (this.#options.shading !== "ramps" || width === 0) return [];
    const shading = shadingOf(factsOf(material), mesh);
    // Around a mesh, where its texture has holes, there is nothing to see.
    if (shading.glows || shading.cuts.length === 0 || cutoffOf(material) > 0) return [];
    withOutward(geometry);
    return (["line", "outline"] as const).map((kind) =>
      this.#kept(mesh, ["ink", shading.ink, width, kind], () =>
        inkMaterial(shading, kind === "line" ? width / 2 : width, kind),
      ),
    );
  }

  #kept({ file }: LookMesh, key: readonly unknown[], make: () => Material): Material {
    const full = [file, ...key].join(" ");
    const known = this.#materials.get(full);
    if (known !== undefined) return known;
    const made = make();
    made.userData = { ...made.userData, file };
    this.#materials.set(full, made);
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
        disposeWhole(material);
      }
      await this.#textures.release(file);
    }
  }
}

export interface ModelCacheOptions {
  /**
   * `own`: materials are those of the files, in the middle color of their ramps; `ramps`: light steps through the tones of each ramp, with lines of
   * ink, as in pictures.
   *
   * @defaultValue "own"
   */
  readonly shading?: "own" | "ramps";
}

/** What a material of a file says, for shading. */
function factsOf(material: Material): MaterialFacts {
  const { color, emissive } = material as Partial<MeshStandardMaterial>;
  return {
    name: material.name,
    color: color?.toArray() ?? [1, 1, 1],
    glows: emissive !== undefined && emissive.r + emissive.g + emissive.b > 0,
    extras: material.userData,
  };
}

/** What of a mesh besides its tones its picture depends on. */
function surfaceOf({ geometry, material, colors }: SharedMesh): Surface {
  const { map = null } = material as Partial<MeshStandardMaterial>;
  return {
    map: map !== null && geometry.hasAttribute(map.channel === 0 ? "uv" : `uv${map.channel}`) ? map : undefined,
    cutoff: map === null ? 0 : cutoffOf(material),
    colors,
    isDoubleSided: material.side === DoubleSide,
  };
}

/** How opaque a material is where it is seen; 0 for one without holes. */
function cutoffOf({ alphaTest, transparent, opacity }: Material): number {
  return (alphaTest > 0 ? alphaTest : transparent ? 0.5 : 0) / Math.max(opacity, 1e-6);
}

function idOf(value: unknown): unknown {
  return value instanceof Texture ? value.uuid : value;
}

function keyOf({ ink, tones, cuts, glows }: Shading): readonly unknown[] {
  return [ink, ...tones, ...cuts, glows];
}

/** Gives the bytes of a file, by its path in the catalog folder. */
export type LoadFile = (file: string) => Promise<Uint8Array>;

/** A file that was loaded. */
export interface ShelvedFile {
  readonly scene: Object3D;
  readonly animations: readonly AnimationClip[];
  readonly meshes: readonly SharedMesh[];
}

import {
  type AnimationAction,
  AnimationMixer,
  Group,
  LoopOnce,
  LoopRepeat,
  type Object3D,
  type Raycaster,
} from "three";
import { clone } from "three/examples/jsm/utils/SkeletonUtils.js";
import { MantleError } from "../../core/base/problem.ts";
import { requireKnown } from "../../core/base/require-known.ts";
import type { Look } from "../../core/look/look.ts";
import { type Dressed, Dressing } from "./dress.ts";
import type { ModelCache, ShelvedFile } from "./model-cache.ts";

/** A figure with a skeleton of its own: it is added to a scene, plays clips, and wears looks. */
export interface ModelFigure extends Dressed {
  /** What a scene holds; the game places and turns it. */
  readonly object: Object3D;
  readonly look: Look;
  /** The animation that plays, as it was asked for. */
  readonly animation: string | undefined;
  /**
   * Plays an animation of the rig, or what the form shows in its place. The same one goes on as it is.
   *
   * @param fade - seconds in which it takes over from what played before. @defaultValue 0.15
   * @throws MantleError `unknown-animation`.
   */
  play(animation: string, fade?: number): void;
  /** Moves the figure on. @param seconds - since the last call. */
  update(seconds: number): void;
  /** Puts the animation that plays at a time; one that loops begins again at its end. @param time - in seconds. */
  seek(time: number): void;
  /** An object at a point of the rig, which moves with it: for a light in a lantern. @throws MantleError `unknown-point`. */
  point(id: string): Object3D;
}

/**
 * Puts looks on an object that stands in a scene already, and has the joints of the rig: only meshes of its own are added and removed, and
 * whatever moves its bones goes on.
 *
 * @example
 * const dressed = applyLook(shelf, hero); // hero: an object of somebody else's scene
 * await dressed.show(resolveLook(catalog, wren));
 */
export function applyLook(shelf: ModelCache, object: Object3D): Dressed {
  return new Dressing(shelf, object);
}

/**
 * Makes a figure of a look, with the skeleton and the clips of its rig.
 *
 * @throws MantleError `no-model` for a rig that has none.
 * @example
 * const shelf = new ModelCache(async (file) => new Uint8Array(await (await fetch(`saltmarsh/${file}`)).arrayBuffer()));
 * const figure = await openModelFigure(shelf, resolveLook(catalog, wren));
 * scene.add(figure.object);
 * figure.play("walk");
 * await figure.show(resolveLook(catalog, applied)); // another coat: the walk goes on
 */
export async function openModelFigure(shelf: ModelCache, look: Look): Promise<ModelFigure> {
  const { skeleton } = look;
  if (skeleton === undefined) throw new MantleError("no-model", `The rig "${look.rig.id}" has no model.`);
  const figure = new PlayedFigure(shelf, await shelf.file(skeleton), look);
  shelf.use(skeleton, 1);
  try {
    await figure.show(look);
    return figure;
  } catch (error) {
    figure.close();
    throw error;
  }
}

class PlayedFigure implements ModelFigure {
  readonly object = new Group();
  animation: string | undefined;
  /** As large as the form says; the game scales the object around it. */
  readonly #scaled = new Group();
  readonly #shelf: ModelCache;
  readonly #file: ShelvedFile;
  readonly #dressing: Dressing;
  readonly #mixer: AnimationMixer;
  readonly #points = new Map<string, Object3D>();
  #look: Look;
  #action: AnimationAction | undefined;

  constructor(shelf: ModelCache, file: ShelvedFile, look: Look) {
    this.#shelf = shelf;
    this.#file = file;
    this.#look = look;
    this.#scaled.add(clone(file.scene));
    this.object.add(this.#scaled);
    this.#dressing = new Dressing(shelf, this.#scaled);
    this.#mixer = new AnimationMixer(this.#scaled);
  }

  get look(): Look {
    return this.#look;
  }

  async show(look: Look): Promise<void> {
    if (look.skeleton !== this.#look.skeleton)
      throw new MantleError(
        "other-skeleton",
        `The look has the skeleton ${look.skeleton ?? "of no file"}, and this figure ${this.#look.skeleton ?? "none"}. Open a figure for it.`,
      );
    await this.#dressing.show(look);
    this.#scaled.scale.setScalar(look.scale);
    const before = this.#clipOf(this.animation);
    this.#look = look;
    // A form that moves otherwise takes over where the clip is.
    if (this.animation !== undefined && this.#clipOf(this.animation) !== before)
      this.#start(this.animation, 0.15, true);
  }

  play(animation: string, fade = 0.15): void {
    requireKnown("animation", animation, this.#look.rig.animations);
    if (this.animation === animation) return;
    this.animation = animation;
    this.#start(animation, fade, false);
  }

  update(seconds: number): void {
    this.#mixer.update(seconds);
  }

  seek(time: number): void {
    const action = this.#action;
    if (action === undefined) return;
    const { duration } = action.getClip();
    action.time = action.loop === LoopOnce || duration === 0 ? Math.min(time, duration) : time % duration;
    this.#mixer.update(0);
  }

  point(id: string): Object3D {
    const known = this.#points.get(id);
    if (known !== undefined) return known;
    const { joint, offset } = requireKnown("point", id, this.#look.rig.model?.points ?? new Map());
    const place = new Group();
    place.position.set(offset[0], offset[1], offset[2]);
    this.#dressing.joint(joint)?.add(place);
    this.#points.set(id, place);
    return place;
  }

  close(): void {
    this.#dressing.close();
    this.#mixer.stopAllAction();
    this.#mixer.uncacheRoot(this.#scaled);
    this.object.removeFromParent();
    this.#shelf.use(this.#look.skeleton ?? "", -1);
  }

  pick(ray: Raycaster): { readonly part: string | undefined } | undefined {
    return this.#dressing.pick(ray);
  }

  #clipOf(animation: string | undefined): string {
    const shown = this.#look.animations.get(animation ?? "") ?? animation ?? "";
    return this.#look.rig.model?.clips.get(shown) ?? shown;
  }

  /** @param isSame - whether it goes on at the same part of its way, as another form of the same animation does. */
  #start(animation: string, fade: number, isSame: boolean): void {
    const name = this.#clipOf(animation);
    const clip = this.#file.animations.find((each) => each.name === name);
    const before = this.#action;
    // Two animations that show one clip: it goes on.
    if (clip !== undefined && before?.getClip() === clip) return;
    if (clip === undefined) {
      before?.fadeOut(fade);
      this.#action = undefined;
      return;
    }
    const { loop } = requireKnown("animation", animation, this.#look.rig.animations);
    const action = this.#mixer.clipAction(clip).reset();
    action.setLoop(loop ? LoopRepeat : LoopOnce, Number.POSITIVE_INFINITY);
    action.clampWhenFinished = !loop;
    if (isSame && before !== undefined) action.time = (before.time / before.getClip().duration) * clip.duration;
    action.play();
    if (before !== undefined) {
      before.fadeOut(fade);
      action.fadeIn(fade);
    }
    this.#action = action;
  }
}

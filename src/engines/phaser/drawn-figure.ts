import { Animations, GameObjects, Geom, type Scene, type Types } from "phaser";
import type { Animation, Point } from "../../core/catalog/model/catalog.ts";
import type { Look, Moment } from "../../core/look/look.ts";
import { animationOf, placeAt, timedFrames } from "../../core/look/moments.ts";
import type { FrameEvent } from "../../core/play/figure.ts";
import type { HitResult } from "../../core/raster/hit-test.ts";
import type { Atlas } from "../../core/raster/open-atlas.ts";
import { Drawn, type DrawnFigureOptions, type PictureLoader } from "../shared/drawn.ts";
import type { FrameTextures } from "./frame-textures.ts";

/** What a figure shares with the others of its game. */
interface Shared {
  readonly atlas: Atlas;
  readonly loader: PictureLoader;
  readonly textures: FrameTextures;
  /** Is called when the figure is destroyed. */
  readonly leave: (figure: DrawnFigure) => void;
}

/** Something that can be attached to a point. */
export interface Attachable {
  setPosition(x: number, y: number): unknown;
  setVisible(isVisible: boolean): unknown;
}

/**
 * Somebody in a scene: a sprite whose origin is that of the figure, between its feet. Made by `this.figures.add`.
 *
 * The animations of its rig are the sprite's own, by their ids: `play`, `chain`, time scale and animation events are Phaser's, and no other
 * sprite knows them. Where frames have events, it emits `"frame-event"` with a `FrameEvent`.
 */
export class DrawnFigure extends GameObjects.Sprite {
  readonly #shared: Shared;
  readonly #drawn: Drawn;
  /** The look whose animations the sprite has. */
  #animated: Look | undefined;
  /** What is to be played when there is a look, where nothing was played yet. */
  #pending: string | undefined;
  readonly #attached = new Map<Attachable, string>();

  /** @internal */
  constructor(scene: Scene, x: number, y: number, shared: Shared, options: DrawnFigureOptions) {
    super(scene, x, y, shared.textures.blank(undefined).texture, "blank");
    this.#shared = shared;
    this.#drawn = new Drawn(shared.atlas, shared.loader, options);
    this.#pending = options.animation;
    this.on(Animations.Events.ANIMATION_UPDATE, (_: unknown, frame: Animations.AnimationFrame) => this.#begin(frame));
    this.on(Animations.Events.ANIMATION_START, (_: unknown, frame: Animations.AnimationFrame) => this.#begin(frame));
    if (this.look !== undefined) this.#animate(this.look);
  }

  /** What is shown. Set to another look, that one is shown as soon as its pictures are there, and the pose goes on. */
  get look(): Look | undefined {
    return this.#drawn.figure.look;
  }

  set look(look: Look | undefined) {
    this.#drawn.figure.look = look;
  }

  /** What it plays. Setting the animation that it plays already does not begin it anew. */
  get animation(): string {
    return this.anims.currentAnim?.key ?? this.#pending ?? "";
  }

  set animation(animation: string) {
    this.play(animation, true);
  }

  /** Which way it looks; the animation goes on when that changes. */
  get facing(): string {
    return this.#drawn.figure.facing;
  }

  set facing(facing: string) {
    this.#drawn.figure.facing = facing;
  }

  /** Seconds since the run of the animation began, as of its frame. Set, it is at that frame from now on. */
  get time(): number {
    return this.#drawn.figure.time;
  }

  set time(time: number) {
    if (this.#animated === undefined) return;
    if (this.#pending !== undefined) this.play(this.#pending);
    const { currentAnim } = this.anims;
    if (currentAnim === null) return;
    const place = placeAt(animationOf(this.#animated, currentAnim.key), time);
    this.anims.setCurrentFrame(currentAnim.frames[place] as Animations.AnimationFrame);
  }

  /** What it does at this moment: the same object at every call. */
  get moment(): Moment {
    return this.#drawn.figure.moment;
  }

  /** Plays an animation of its rig; while there is no look, as soon as there is one. */
  override play(
    key: string | Animations.Animation | Types.Animations.PlayAnimationConfig,
    ignoreIfPlaying?: boolean,
  ): this {
    if (this.#animated === undefined) {
      this.#pending = typeof key === "string" ? key : String(key.key);
      return this;
    }
    this.#pending = undefined;
    return super.play(key, ignoreIfPlaying);
  }

  /** Lets something of the scene follow a named point, such as a hand; while that is not seen, neither is what follows it. */
  attachTo<Thing extends Attachable>(point: string, thing: Thing): Thing {
    this.#attached.set(thing, point);
    this.#place(thing, point);
    return thing;
  }

  /** Ends following. */
  detach(thing: Attachable): void {
    if (this.#attached.delete(thing)) thing.setVisible(true);
  }

  /** What of the figure is in front at a place, in pixels from its origin; `undefined` where there is nothing. */
  hitTest({ x, y }: Point): HitResult | undefined {
    return this.#drawn.hitTest(x, y);
  }

  /**
   * Without arguments, the figure takes pointer events where something of it is drawn. They say where that is in the sprite:
   * `hitTest({ x: localX - figure.displayOriginX, y: localY - figure.displayOriginY })`.
   */
  override setInteractive(
    hitArea?: Types.Input.InputConfiguration | object,
    callback?: Types.Input.HitAreaCallback,
    dropZone?: boolean,
  ): this {
    if (hitArea !== undefined) return super.setInteractive(hitArea, callback, dropZone);
    return super.setInteractive({
      hitArea: new Geom.Rectangle(0, 0, this.width, this.height),
      hitAreaCallback: (_: unknown, x: number, y: number) =>
        this.#drawn.isAt(x - this.displayOriginX, y - this.displayOriginY),
    });
  }

  /** Shows what it does by now; called once a step of the game. @internal */
  follow(): void {
    const { figure } = this.#drawn;
    if (figure.look !== this.#animated) this.#animate(figure.look);
    // Deferred so that listeners can be attached: the first frame may have an event.
    if (this.#pending !== undefined && this.#animated !== undefined) this.play(this.#pending);
    this.#drawn.show(this.visible);
    // Phaser shows a blank frame when it begins one; the drawn one takes its place.
    const frame = this.#shared.textures.of(this.#drawn.frame, this.#animated?.rig);
    if (this.frame !== frame) {
      this.texture = frame.texture;
      this.frame = frame;
    }
    for (const [thing, point] of this.#attached) this.#place(thing, point);
  }

  override destroy(fromScene?: boolean): void {
    this.#drawn.figure.close();
    this.#shared.leave(this);
    this.#attached.clear();
    super.destroy(fromScene);
  }

  /** Gives the sprite the animations of a look; what it plays goes on at the same part of its run. */
  #animate(look: Look | undefined): void {
    this.#animated = look;
    if (look === undefined) return;
    const { rig } = look;
    for (const id of rig.animations.keys()) this.#take(id, animationOf(look, id), look);
    this.#turnTo(look);
    if (this.anims.currentAnim !== null) return;
    const first = rig.animations.keys().next().value ?? "";
    if (this.#pending === undefined || !rig.animations.has(this.#pending)) this.#pending = first;
  }

  #turnTo({ rig: { frame, origin } }: Look): void {
    this.setFrame(this.#shared.textures.blank(this.#animated?.rig).name);
    this.setSize(frame.width, frame.height);
    this.setOrigin(origin.x / frame.width, origin.y / frame.height);
  }

  /** Makes an animation of the rig one of the sprite's own, or gives it other frames. */
  #take(key: string, animation: Animation, { rig }: Look): void {
    const { texture, name } = this.#shared.textures.blank(rig);
    const frames = timedFrames(animation).map(({ duration }) => ({
      key: texture.key,
      frame: name,
      duration: duration * 1000,
    }));
    const repeat = animation.loop ? -1 : 0;
    const { anims } = this;
    const known = anims.exists(key) ? anims.get(key) : undefined;
    if (known === undefined) {
      anims.create({ key, frames, repeat, skipMissedFrames: true });
      return;
    }
    const done = ((anims.currentFrame?.index ?? 1) - 1) / known.frames.length;
    known.frames = known.getFrames(this.scene.sys.textures, frames);
    known.repeat = repeat;
    if (anims.currentAnim !== known) return;
    anims.currentFrame = known.frames[Math.floor(done * known.frames.length)] as Animations.AnimationFrame;
  }

  /** A frame of Phaser's begins: the figure is at its moment. */
  #begin({ index }: Animations.AnimationFrame): void {
    const { figure } = this.#drawn;
    const key = this.anims.currentAnim?.key;
    if (key === undefined || this.#animated === undefined) return;
    const animation = animationOf(this.#animated, key);
    figure.animation = key;
    figure.time = animation.ends[index - 2] ?? 0;
    const { facing } = figure;
    for (const word of animation.events.get(animation.sequence[index - 1] ?? 0) ?? [])
      this.emit("frame-event", { word, animation: key, facing } satisfies FrameEvent);
  }

  #place(thing: Attachable, point: string): void {
    const at = this.visible ? this.#drawn.frame?.points.get(point) : undefined;
    thing.setVisible(at !== undefined);
    if (at === undefined) return;
    const place = this.getWorldTransformMatrix().transformPoint(at.x, at.y);
    thing.setPosition(place.x, place.y);
  }
}

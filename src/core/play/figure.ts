import { EventQueue } from "../base/event-queue.ts";
import type { Point } from "../catalog/model/catalog.ts";
import type { Look, Moment } from "../look/look.ts";
import { eventsBetween, firstMoment, keepPose } from "../look/moments.ts";
import type { Painter, PictureSource, Placement } from "../look/painter.ts";
import { pointAt } from "../look/point-at.ts";
import type { Session } from "./session.ts";

/** Where a figure stands: an object of the game's own, which moves it. */
export interface FigurePlacement extends Placement {
  /** Which way it looked when the figure came to stand there. */
  readonly facing?: string;
}

export interface FigureOptions {
  /** Whose look it shows: that of a seat of a session. Without it, the game sets the look. */
  readonly session?: Session;
  readonly seat?: number;
  /** Fetches the pictures of looks, as an `imageLoader` does. */
  readonly loader: PictureSource;
  /** The animation and facing it begins with; the rig's first when left out. */
  readonly animation?: string;
  readonly facing?: string;
  /**
   * Where it stands: a spawn point, or something that stands in the scene already and is adopted. It is read at each painting, so the
   * game moves the figure by moving it.
   *
   * @defaultValue the upper left corner
   */
  readonly at?: FigurePlacement;
  /** Is called when pictures of a new look could not be fetched; the look before stays. Without it, the rejection is unhandled. */
  readonly onError?: (error: unknown) => void;
}

/** A word that is emitted when a frame begins: a step, a splash. */
export interface FrameEvent {
  readonly word: string;
  /** The animation that was asked for, and which way the figure looks. */
  readonly animation: string;
  readonly facing: string;
}

/** What a scene holds of somebody: the picture of a seat, or of a look. Its place on the map is the game's. */
export interface Figure {
  /**
   * What is shown; `undefined` until its pictures are there, or while nobody sits in the seat. Set to another look, that one is shown
   * as soon as its pictures are there, and the pose goes on.
   */
  get look(): Look | undefined;
  set look(look: Look | undefined);
  /** Set by the game. Setting the animation that it shows already does not begin it anew. */
  animation: string;
  facing: string;
  /** Seconds since the animation began. Set by the game, it is there from now on, and what lies between emits nothing. */
  time: number;
  /** What it does at this moment, for an engine that draws by `celsAt`: the same object at every call. */
  readonly moment: Moment;
  /** Where it stands. Set to something else that stands in the scene, the figure is there from now on, and looks that way. */
  at: FigurePlacement;
  /** Where a named point of it is now, a hand or the crown, in pixels of the canvas; `undefined` while it is not seen. */
  point(name: string): Point | undefined;
  /** Moves time on, and emits what the frames that begin meanwhile say. @param seconds - since the last call. */
  advance(seconds: number): void;
  /** Calls a listener when a frame begins that has an event: each word once, however many frames pass in one call. Returns what ends that. */
  on(event: "event", listener: (event: FrameEvent) => void): () => void;
  /** Paints it where it stands; nothing while it is not seen. */
  paint<Target>(target: Target, painter: Painter<Target>): void;
  /** Stops following the session; to be called when the scene ends. */
  close(): void;
}

/**
 * Makes the figure of a seat, or of looks that the game sets. That of a seat follows the session by itself: another coat, another form or another character shows as soon as its
 * pictures are there, and the pose goes on where it was.
 *
 * @example
 * const player = { x: 160, y: 90 }
 * const figure = openFigure({ session, seat: 1, loader, at: player })
 * player.x += 1
 * figure.animation = "walk"
 * figure.advance(seconds)
 * figure.paint(context, painter)
 */
export function openFigure(options: FigureOptions): Figure {
  return new LiveFigure(options);
}

class LiveFigure implements Figure {
  // One object for all frames, so that a steady frame makes no garbage.
  readonly moment: { -readonly [Key in keyof Moment]: Moment[Key] };
  readonly #loader: PictureSource;
  readonly #onError: ((error: unknown) => void) | undefined;
  readonly #queue = new EventQueue<{ event: FrameEvent }>();
  readonly #stop: (() => void) | undefined;
  #placement: FigurePlacement;
  #look: Look | undefined;
  /** What is to be shown as soon as its pictures are there. */
  #wanted: Look | undefined;
  /** Until when the events of frames were emitted: before the beginning, at first. */
  #emittedUntil = -1;

  constructor({ session, seat = 1, loader, animation = "", at = { x: 0, y: 0 }, facing, onError }: FigureOptions) {
    this.moment = { animation, facing: facing ?? at.facing ?? "", time: 0 };
    this.#loader = loader;
    this.#onError = onError;
    this.#placement = at;
    this.#stop = session?.on("look", (change) => {
      if (change.seat === seat) this.look = change.look;
    });
    this.look = session?.seat(seat).look;
  }

  get look(): Look | undefined {
    return this.#look;
  }

  set look(next: Look | undefined) {
    this.#wanted = next;
    if (next === undefined) this.#look = undefined;
    else if (this.#isLoaded(next)) this.#show(next);
    else {
      this.#loader.load(next).then(() => {
        if (this.#wanted === next) this.#show(next);
      }, this.#onError);
    }
  }

  get animation(): string {
    return this.moment.animation;
  }

  set animation(next: string) {
    if (next === this.moment.animation) return;
    this.moment.animation = next;
    this.moment.time = 0;
    this.#emittedUntil = -1;
  }

  get facing(): string {
    return this.moment.facing;
  }

  set facing(next: string) {
    this.moment.facing = next;
  }

  get time(): number {
    return this.moment.time;
  }

  set time(next: number) {
    this.moment.time = next;
    this.#emittedUntil = next;
  }

  get at(): FigurePlacement {
    return this.#placement;
  }

  set at(next: FigurePlacement) {
    this.#placement = next;
    if (next.facing !== undefined) this.moment.facing = next.facing;
  }

  point(name: string): Point | undefined {
    const found = this.#look && pointAt(this.#look, name, this.moment);
    const { x, y, scale = 1 } = this.#placement;
    return found && { x: x + found.x * scale, y: y + found.y * scale };
  }

  advance(seconds: number): void {
    const { moment } = this;
    const look = this.#look;
    moment.time += seconds;
    const from = this.#emittedUntil;
    this.#emittedUntil = moment.time;
    if (look === undefined || !this.#queue.hasListeners("event")) return;
    const { animation, facing } = moment;
    this.#queue.together(() => {
      for (const word of eventsBetween(look, animation, from, moment.time))
        this.#queue.emit("event", { word, animation, facing });
    });
  }

  on(event: "event", listener: (event: FrameEvent) => void): () => void {
    return this.#queue.on(event, listener);
  }

  paint<Target>(target: Target, painter: Painter<Target>): void {
    if (this.#look !== undefined) painter.paint(target, this.#look, this.moment, this.#placement);
  }

  close(): void {
    this.#stop?.();
    this.#wanted = undefined;
  }

  #isLoaded({ layers }: Look): boolean {
    return layers.every(({ images }) => images.every((image) => this.#loader.images.has(image)));
  }

  /** Shows a look. The pose goes on where both looks know it. */
  #show(next: Look): void {
    const { moment } = this;
    const { animations, facings } = next.rig;
    const first = firstMoment(next);
    if (this.#look?.rig.animations.has(moment.animation) && animations.has(moment.animation))
      this.time = keepPose(this.#look, next, moment).time;
    // Somebody on another rig may not know how to do what was done so far.
    if (!animations.has(moment.animation)) moment.animation = first.animation;
    if (!facings.has(moment.facing)) moment.facing = first.facing;
    this.#look = next;
  }
}

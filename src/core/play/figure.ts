import { EventQueue } from "../base/event-queue.ts";
import type { Point } from "../catalog/model/catalog.ts";
import type { Look, Moment } from "../look/look.ts";
import { eventsBetween, keepPose } from "../look/moments.ts";
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
export function openFigure({
  session,
  seat = 1,
  loader,
  animation = "",
  at = { x: 0, y: 0 },
  facing = at.facing ?? "",
  onError,
}: FigureOptions): Figure {
  // One object for all frames, so that a steady frame makes no garbage.
  const moment: { -readonly [Key in keyof Moment]: Moment[Key] } = { animation, facing, time: 0 };
  let placement = at;
  let look: Look | undefined;
  let wanted: Look | undefined;
  const queue = new EventQueue<{ event: FrameEvent }>();
  /** Until when the events of frames were emitted: before the beginning, at first. */
  let emittedUntil = -1;

  const show = (next: Look) => {
    const { animations, facings } = next.rig;
    if (look?.rig.animations.has(moment.animation) && animations.has(moment.animation))
      moment.time = emittedUntil = keepPose(look, next, moment).time;
    // Somebody on another rig may not know how to do what was done so far.
    if (!animations.has(moment.animation)) moment.animation = animations.keys().next().value ?? "";
    if (!facings.has(moment.facing)) moment.facing = facings.keys().next().value ?? "";
    look = next;
  };
  const follow = (next: Look | undefined) => {
    wanted = next;
    if (next === undefined) look = undefined;
    else if (next.layers.every(({ images }) => images.every((image) => loader.images.has(image)))) show(next);
    else {
      loader.load(next).then(() => {
        if (wanted === next) show(next);
      }, onError);
    }
  };
  const stop = session?.on("look", (change) => {
    if (change.seat === seat) follow(change.look);
  });
  follow(session?.seat(seat).look);

  return {
    get look() {
      return look;
    },
    set look(next) {
      follow(next);
    },
    get animation() {
      return moment.animation;
    },
    set animation(next) {
      if (next === moment.animation) return;
      moment.animation = next;
      moment.time = 0;
      emittedUntil = -1;
    },
    get facing() {
      return moment.facing;
    },
    set facing(next) {
      moment.facing = next;
    },
    get time() {
      return moment.time;
    },
    set time(next) {
      moment.time = emittedUntil = next;
    },
    moment,
    get at() {
      return placement;
    },
    set at(next) {
      placement = next;
      moment.facing = next.facing ?? moment.facing;
    },
    point(name) {
      const found = look && pointAt(look, name, moment);
      const { x, y, scale = 1 } = placement;
      return found && { x: x + found.x * scale, y: y + found.y * scale };
    },
    advance(seconds) {
      moment.time += seconds;
      const from = emittedUntil;
      emittedUntil = moment.time;
      if (look === undefined || !queue.hasListeners("event")) return;
      const { animation, facing } = moment;
      queue.together(() => {
        for (const word of eventsBetween(look as Look, animation, from, moment.time))
          queue.emit("event", { word, animation, facing });
      });
    },
    on: (event, listener) => queue.on(event, listener),
    paint(target, painter) {
      if (look !== undefined) painter.paint(target, look, moment, placement);
    },
    close() {
      stop?.();
      wanted = undefined;
    },
  };
}

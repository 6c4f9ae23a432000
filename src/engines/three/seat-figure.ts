import { Group, type Object3D } from "three";
import type { Look } from "../../core/look/look.ts";
import type { Session } from "../../core/play/session.ts";
import type { ModelCache } from "./model-cache.ts";
import { type ModelFigure, openModelFigure } from "./model-figure.ts";

export interface SeatFigureOptions {
  readonly session: Session;
  readonly seat: number;
  readonly shelf: ModelCache;
  /** The animation it begins with; the rig's first when left out. */
  readonly animation?: string;
  /** Is called when a new look could not be shown; the look before stays. Without it, the rejection is unhandled. */
  readonly onError?: (error: unknown) => void;
}

/** What a scene in three dimensions holds of a player: the figure of a seat. Its place is the game's. */
export interface SeatFigure {
  /** What a scene holds: the game places and turns it. Empty while nobody sits in the seat. */
  readonly object: Object3D;
  /** The figure in it; `undefined` until its models are there, or while nobody sits in the seat. */
  readonly figure: ModelFigure | undefined;
  /** Plays an animation; the same one goes on as it is. */
  play(animation: string): void;
  /** Moves it on. @param seconds - since the last call. */
  update(seconds: number): void;
  /** Stops following the session, and takes the figure away. */
  close(): void;
}

/**
 * Makes the figure of a seat. It follows the session by itself: another coat or another form shows as soon as its models are there, and the clip
 * goes on; somebody with another skeleton takes the place of who stood there, and goes on with the same animation.
 *
 * @example
 * const player = openSeatFigure({ session, seat: 1, shelf });
 * scene.add(player.object);
 * player.play("walk");
 * player.update(seconds);
 */
export function openSeatFigure(options: SeatFigureOptions): SeatFigure {
  return new Follower(options);
}

class Follower implements SeatFigure {
  readonly object = new Group();
  figure: ModelFigure | undefined;
  readonly #options: SeatFigureOptions;
  readonly #stop: () => void;
  #animation: string | undefined;
  #wanted: Look | undefined;

  constructor(options: SeatFigureOptions) {
    this.#options = options;
    this.#animation = options.animation;
    const { session, seat } = options;
    this.#stop = session.on("look", (change) => {
      if (change.seat === seat) this.#follow(change.look);
    });
    this.#follow(session.seat(seat).look);
  }

  play(animation: string): void {
    this.#animation = animation;
    this.figure?.play(animation);
  }

  update(seconds: number): void {
    this.figure?.update(seconds);
  }

  close(): void {
    this.#stop();
    this.#wanted = undefined;
    this.figure?.close();
    this.figure = undefined;
    this.object.removeFromParent();
  }

  #follow(look: Look | undefined): void {
    this.#wanted = look;
    if (look === undefined) {
      this.figure?.close();
      this.figure = undefined;
      return;
    }
    const showing = this.figure?.look.skeleton === look.skeleton ? this.figure?.show(look) : this.#exchange(look);
    void showing?.catch(this.#options.onError ?? rethrow);
  }

  /** Opens a figure for another skeleton, and lets it take the place when it is there, if it is still wanted. */
  async #exchange(look: Look): Promise<void> {
    const made = await openModelFigure(this.#options.shelf, look);
    if (this.#wanted !== look) {
      made.close();
      return;
    }
    this.figure?.close();
    this.figure = made;
    const { animations } = look.rig;
    const first = animations.keys().next().value ?? "";
    made.play(this.#animation !== undefined && animations.has(this.#animation) ? this.#animation : first, 0);
    this.object.add(made.object);
  }
}

/** A rejection that nobody handles is the platform's to report. */
function rethrow(error: unknown): never {
  throw error;
}

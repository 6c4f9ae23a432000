import { MantleError } from "../base/problem.ts";
import type { SessionEvents } from "./session.ts";

type Listeners = { readonly [Name in keyof SessionEvents]: Set<(happened: SessionEvents[Name]) => void> };

/** Something that happened and was not told yet. */
interface News {
  /** 1 for what the game did, 2 for what a listener did upon that, and so on. */
  readonly depth: number;
  /** Calls the listeners; what they throw is added to the failures. */
  readonly spread: (failures: unknown[]) => void;
}

/** So many answers to answers are a circle, and so many news in one telling are one that grows. */
const deepest = 100;
const most = 50_000;

/**
 * Who listens to a session, and the telling.
 *
 * Everyone hears everything in the order in which it happened, and not before the change it belongs to is done as a whole. What a
 * listener does is told once all have heard what it answers to. So what each hears last is what is, whoever else listens.
 */
export class EventQueue {
  readonly #listeners: Listeners = {
    change: new Set(),
    seat: new Set(),
    character: new Set(),
    loadout: new Set(),
    look: new Set(),
    problems: new Set(),
  };
  readonly #untold: News[] = [];
  /** How many changes are under way, one within the other. */
  #changes = 0;
  /** The depth of what is being told; 0 while nothing is. */
  #depth = 0;

  /** Whether anybody listens to something. */
  isHeard(event: keyof SessionEvents): boolean {
    return this.#listeners[event].size > 0;
  }

  on<Name extends keyof SessionEvents>(event: Name, listener: (happened: SessionEvents[Name]) => void): () => void {
    this.#listeners[event].add(listener);
    return () => this.#listeners[event].delete(listener);
  }

  /** Does a change as a whole: what happens in it is told when all of it is done. @throws as `tell` does. */
  together(change: () => void): void {
    this.#changes += 1;
    try {
      change();
    } finally {
      this.#changes -= 1;
      this.#tellAll();
    }
  }

  /** @throws what a listener threw first, once everyone has heard everything; MantleError `endless-answers`. */
  tell<Name extends keyof SessionEvents>(event: Name, happened: SessionEvents[Name]): void {
    const listeners = this.#listeners[event];
    if (listeners.size === 0) return;
    const spread = (failures: unknown[]) => {
      for (const listener of [...listeners]) {
        // Another may have stopped it a moment ago.
        if (!listeners.has(listener)) continue;
        try {
          listener(happened);
        } catch (error) {
          failures.push(error);
        }
      }
    };
    this.#untold.push({ depth: this.#depth + 1, spread });
    this.#tellAll();
  }

  #tellAll(): void {
    if (this.#changes > 0 || this.#depth > 0) return;
    const failures: unknown[] = [];
    // What listeners do meanwhile comes to the end of the list, so the answers to answers come last.
    for (const [number, { depth, spread }] of this.#untold.entries()) {
      if (depth > deepest || (depth > 1 && number >= most)) {
        failures.push(endless());
        break;
      }
      this.#depth = depth;
      spread(failures);
    }
    this.#untold.length = 0;
    this.#depth = 0;
    if (failures.length > 0) throw failures[0];
  }
}

function endless(): MantleError {
  return new MantleError(
    "endless-answers",
    "What listeners do is answered by listeners over and over, and would be without end. Let one of them do nothing where nothing has to be done.",
  );
}

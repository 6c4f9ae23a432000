import { getOrInsert } from "./get-or-insert.ts";
import { MantleError } from "./problem.ts";

/** Something that happened and was not delivered yet. */
interface Pending {
  /** 1 for what the game did, 2 for what a listener did upon that, and so on. */
  readonly depth: number;
  /** Calls the listeners; what they throw is added to the failures. */
  readonly deliver: (failures: unknown[]) => void;
}

/** So many answers to answers are a circle, and so many events in one delivery are one that grows. */
const deepest = 100;
const most = 50_000;

/**
 * The listeners of something, and the delivery of its events.
 *
 * Every listener gets every event in the order in which it happened, and not before the change it belongs to is done as a whole. What a
 * listener does is delivered once all listeners have what it answers to. So what each gets last is what is, whoever else listens.
 *
 * @typeParam Events - what comes with each event, by its name.
 */
export class EventQueue<Events extends object> {
  readonly #listeners = new Map<keyof Events, Set<(happened: never) => void>>();
  readonly #pending: Pending[] = [];
  /** How many changes are under way, one within the other. */
  #changes = 0;
  /** The depth of what is being delivered; 0 while nothing is. */
  #depth = 0;

  /** Whether anybody listens to an event. */
  hasListeners(event: keyof Events): boolean {
    return (this.#listeners.get(event)?.size ?? 0) > 0;
  }

  /** Calls a listener at each event. Returns what ends that. */
  on<Name extends keyof Events>(event: Name, listener: (happened: Events[Name]) => void): () => void {
    const listeners = getOrInsert(this.#listeners, event, () => new Set());
    listeners.add(listener);
    return () => listeners.delete(listener);
  }

  /** Ends all listening. */
  clear(): void {
    this.#listeners.clear();
  }

  /** Does a change as a whole: what happens in it is delivered when all of it is done. @throws as `emit` does. */
  together(change: () => void): void {
    this.#changes += 1;
    try {
      change();
    } finally {
      this.#changes -= 1;
      this.#deliverAll();
    }
  }

  /** @throws what a listener threw first, once everything is delivered to everyone; MantleError `endless-answers`. */
  emit<Name extends keyof Events>(event: Name, happened: Events[Name]): void {
    const listeners = this.#listeners.get(event) as Set<(happened: Events[Name]) => void> | undefined;
    if (listeners === undefined || listeners.size === 0) return;
    const deliver = (failures: unknown[]) => {
      for (const listener of [...listeners]) {
        // Another may have ended it a moment ago.
        if (!listeners.has(listener)) continue;
        try {
          listener(happened);
        } catch (error) {
          failures.push(error);
        }
      }
    };
    this.#pending.push({ depth: this.#depth + 1, deliver });
    this.#deliverAll();
  }

  #deliverAll(): void {
    if (this.#changes > 0 || this.#depth > 0) return;
    const failures: unknown[] = [];
    // What listeners do meanwhile comes to the end of the list, so the answers to answers come last.
    for (const [number, { depth, deliver }] of this.#pending.entries()) {
      if (depth > deepest || (depth > 1 && number >= most)) {
        failures.push(endless());
        break;
      }
      this.#depth = depth;
      deliver(failures);
    }
    this.#pending.length = 0;
    this.#depth = 0;
    if (failures.length > 0) throw failures[0];
  }
}

function endless(): MantleError {
  return new MantleError(
    "endless-answers",
    "Listeners answer each other without end. Let one of them change nothing where nothing has to change.",
  );
}

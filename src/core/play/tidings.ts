import type { SessionEvents } from "./session.ts";

type Listeners = { readonly [Name in keyof SessionEvents]: Set<(happened: SessionEvents[Name]) => void> };

/** Who listens to a session, and the telling. */
export class Tidings {
  readonly #listeners: Listeners = {
    change: new Set(),
    seat: new Set(),
    character: new Set(),
    look: new Set(),
    problems: new Set(),
  };

  /** Whether anybody listens to something. */
  isHeard(event: keyof SessionEvents): boolean {
    return this.#listeners[event].size > 0;
  }

  on<Name extends keyof SessionEvents>(event: Name, listener: (happened: SessionEvents[Name]) => void): () => void {
    this.#listeners[event].add(listener);
    return () => this.#listeners[event].delete(listener);
  }

  tell<Name extends keyof SessionEvents>(event: Name, happened: SessionEvents[Name]): void {
    for (const listener of [...this.#listeners[event]]) listener(happened);
  }
}

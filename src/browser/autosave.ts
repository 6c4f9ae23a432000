import { MantleError } from "../core/base/problem.ts";
import type { Session } from "../core/play/session.ts";

export interface AutosaveOptions {
  /** Milliseconds from one storing to the next, while changes go on. @defaultValue `500` */
  readonly delay?: number;
  /** Called, each time it changes, with whether everything is stored: to show it, or to ask before the page is left. */
  readonly onState?: (isStored: boolean) => void;
  /**
   * Called when storing failed; it is tried again by itself, each time after a longer rest. What somebody else stored meanwhile
   * (`changed-elsewhere`) is reported once: to try again would not help, and the game decides with `flush({ overwrite: true })`.
   *
   * @defaultValue reported to the console
   */
  readonly onError?: (error: unknown) => void;
}

/** Milliseconds between two tries at most, where storing fails. */
const longestWait = 30_000;

/**
 * Stores a session by itself: a choice at once, further changes together a little after, and whatever is left when the page is hidden or
 * left. A page that is left in the very moment of a change may be gone before it is stored; `flush` resolves when it is.
 *
 * @returns what stops it, and stores what is left.
 * @example
 * const stop = autosave(await openSession({ catalog, store }))
 */
export function autosave(
  session: Session,
  { delay = 500, onState = () => {}, onError = console.error }: AutosaveOptions = {},
): () => Promise<void> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let wait = delay;
  let hasMore = false;
  let pending = 0;
  let isStored = true;
  let isOver = false;
  /** Whether somebody else stored something meanwhile, which has been reported. */
  let isRefused = false;
  const report = (next: boolean) => {
    if (next === isStored) return;
    isStored = next;
    onState(next);
  };
  const save = async () => {
    hasMore = false;
    pending += 1;
    try {
      await session.flush().finally(() => {
        pending -= 1;
      });
      wait = delay;
      isRefused = false;
      // What changed since may be in a storing that goes on still.
      if (!hasMore && pending === 0) report(true);
    } catch (error) {
      const wasRefused = isRefused;
      isRefused = error instanceof MantleError && error.code === "changed-elsewhere";
      if (!(wasRefused && isRefused)) onError(error);
      if (isRefused) return;
      hasMore = true;
      wait = Math.min(longestWait, wait * 2);
      rest();
    }
  };
  const rest = () => {
    if (isOver) return;
    timer ??= setTimeout(() => {
      timer = undefined;
      if (!hasMore) return;
      void save();
      rest();
    }, wait);
  };
  const stopListening = session.on("change", () => {
    hasMore = true;
    report(false);
    if (timer !== undefined) return;
    rest();
    // Once the change is done as a whole.
    queueMicrotask(save);
  });
  const hide = () => {
    if (document.visibilityState === "hidden") void save();
  };
  addEventListener("pagehide", save);
  document.addEventListener("visibilitychange", hide);
  return async () => {
    isOver = true;
    clearTimeout(timer);
    stopListening();
    removeEventListener("pagehide", save);
    document.removeEventListener("visibilitychange", hide);
    await save();
  };
}

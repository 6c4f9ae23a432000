import type { Session } from "../core/play/session.ts";

export interface KeepSavedOptions {
  /** Milliseconds from one storing to the next, while changes go on. @defaultValue `500` */
  readonly delay?: number;
  /** Hears, each time it changes, whether everything is stored: to show it, or to ask before the page is left. */
  readonly onState?: (isStored: boolean) => void;
  /** Hears when storing failed; it is tried again at the next change. @defaultValue reported to the console */
  readonly onError?: (error: unknown) => void;
}

/**
 * Stores a session by itself: a choice at once, further changes together a little after, and whatever is left when the page is hidden or
 * left. A page that is left in the very moment of a change may be gone before it is stored; `flush` says when it is.
 *
 * @returns what stops it, and stores what is left.
 * @example
 * const stop = keepSaved(await openSession({ catalog, store }))
 */
export function keepSaved(
  session: Session,
  { delay = 500, onState = () => {}, onError = console.error }: KeepSavedOptions = {},
): () => Promise<void> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let hasMore = false;
  let isStored = true;
  const tell = (next: boolean) => {
    if (next === isStored) return;
    isStored = next;
    onState(next);
  };
  const save = async () => {
    hasMore = false;
    try {
      await session.flush();
      if (!hasMore) tell(true);
    } catch (error) {
      onError(error);
    }
  };
  const rest = () => {
    timer = setTimeout(() => {
      timer = undefined;
      if (!hasMore) return;
      void save();
      rest();
    }, delay);
  };
  const stopListening = session.on("change", () => {
    hasMore = true;
    tell(false);
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
    clearTimeout(timer);
    stopListening();
    removeEventListener("pagehide", save);
    document.removeEventListener("visibilitychange", hide);
    await save();
  };
}

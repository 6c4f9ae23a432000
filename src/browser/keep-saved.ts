import type { Session } from "../core/play/session.ts";

export interface KeepSavedOptions {
  /** Milliseconds from one storing to the next, while changes go on. @defaultValue `500` */
  readonly delay?: number;
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
  { delay = 500, onError = console.error }: KeepSavedOptions = {},
): () => Promise<void> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let hasMore = false;
  const save = () => {
    hasMore = false;
    return session.flush().catch(onError);
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

import type { Session } from "../core/play/session.ts";

export interface KeepSavedOptions {
  /** Milliseconds to wait for further changes. @defaultValue `500` */
  readonly delay?: number;
  /** Hears when storing failed; it is tried again at the next change. @defaultValue reported to the console */
  readonly onError?: (error: unknown) => void;
}

/**
 * Stores a session by itself: a little after a change, many changes at once, and at once when the page is hidden or left.
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
  const save = () => {
    clearTimeout(timer);
    timer = undefined;
    return session.flush().catch(onError);
  };
  const stopListening = session.on("change", () => {
    timer ??= setTimeout(() => void save(), delay);
  });
  const hide = () => {
    if (document.visibilityState === "hidden") void save();
  };
  addEventListener("pagehide", save);
  document.addEventListener("visibilitychange", hide);
  return async () => {
    stopListening();
    removeEventListener("pagehide", save);
    document.removeEventListener("visibilitychange", hide);
    await save();
  };
}

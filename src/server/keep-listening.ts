import type { NoticeListener } from "./statements.ts";

/** Milliseconds between two tries to listen again. */
const shortestWait = 250;
const longestWait = 10_000;

/**
 * Opens a connection that is listened to, and opens it again whenever it ends.
 *
 * @param open - opens it; the number counts the tries. It calls `ended` when the connection ends. Returns what ends it.
 * @returns what stops listening.
 */
export async function keepListening(
  open: (number: number, ended: () => void) => Promise<() => Promise<void>>,
  { onGap }: NoticeListener,
): Promise<() => Promise<void>> {
  let isOver = false;
  let wait = shortestWait;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let end = async () => {};
  const again = (number: number) => {
    if (isOver) return;
    clearTimeout(timer);
    timer = setTimeout(() => void listen(number), wait);
    timer.unref();
    wait = Math.min(longestWait, wait * 2);
  };
  const listen = async (number: number) => {
    let hasEnded = false;
    const ended = () => {
      if (hasEnded) return;
      hasEnded = true;
      again(number + 1);
    };
    try {
      const close = await open(number, ended);
      end = () => close().catch(() => undefined);
      if (isOver) return void end();
      wait = shortestWait;
      // What was said while nobody listened.
      if (number > 0) onGap();
    } catch {
      // It is tried again, for as long as somebody wants to listen.
      ended();
    }
  };
  await listen(0);
  return async () => {
    isOver = true;
    clearTimeout(timer);
    await end();
  };
}

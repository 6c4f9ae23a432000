import { ReplicatedState } from "../core/play/replicated-state.ts";
import type { Session } from "../core/play/session.ts";

/**
 * Keeps the sessions of several pages of one game in agreement: what changes in one changes in all.
 *
 * Of each character, of the order of the roster, and of who sits where the last change counts, on every page the same one, even when two
 * pages change it at once; what they change of different characters is kept from both. A cue that is followed once is followed once on
 * all of them. Signals and devices are each page's own. A character for whom another page's roster has no room stays with the page that
 * made it.
 *
 * @param name - the same in all pages of the game, and no other's.
 * @returns what stops it.
 */
export function syncTabs(session: Session, name: string): () => void {
  const channel = new BroadcastChannel(`zealous-mantle ${name}`);
  const agreement = new ReplicatedState(session, { now: steadyTime, by: Math.random() });
  let isSending = false;
  const send = () => {
    isSending = false;
    if (agreement.notice()) channel.postMessage(agreement.shared);
  };
  // Once the change is done as a whole. What was received is not sent again.
  const stop = session.on("change", () => {
    if (isSending) return;
    isSending = true;
    queueMicrotask(send);
  });
  channel.onmessage = ({ data }: MessageEvent<unknown>) => agreement.receive(data);
  return () => {
    stop();
    channel.close();
  };
}

/** Milliseconds on a clock that all pages of a machine share, and that is never set back while one is open, as the wall clock may be. */
function steadyTime(): number {
  return performance.timeOrigin + performance.now();
}

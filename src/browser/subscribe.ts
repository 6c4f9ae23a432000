import type { HttpStoreOptions } from "./http-store.ts";

/** Milliseconds between two tries at most. */
const longestWait = 30_000;

/**
 * Listens to a server that sends what other pages of the player stored, as server-sent events at `live`. An `EventSource` could not prove who
 * the player is. The channel is opened again by itself.
 *
 * @returns what `autosync` takes as `listen`.
 */
export function subscribe({ url, token }: Omit<HttpStoreOptions, "timeout">): (changed: () => void) => () => void {
  return (changed) => {
    const stop = new AbortController();
    void listen(new URL("live", url.endsWith("/") ? url : `${url}/`), token, changed, stop.signal);
    return () => stop.abort();
  };
}

async function listen(
  address: URL,
  token: HttpStoreOptions["token"],
  changed: () => void,
  signal: AbortSignal,
): Promise<void> {
  for (let wait = 1_000; !signal.aborted; wait = Math.min(longestWait, wait * 2)) {
    try {
      const proof = typeof token === "string" ? token : await token();
      const { body, ok } = await fetch(address, { headers: { authorization: `Bearer ${proof}` }, signal });
      if (ok && body !== null) {
        wait = 500;
        // What happened while nobody listened.
        changed();
        await followEvents(body, changed);
      }
    } catch {
      // The server is gone, or the network: it is tried again, and what was missed is fetched then.
    }
    await pause(wait, signal);
  }
}

/** Each event only says that something changed, so its data need not be put together. */
async function followEvents(body: ReadableStream<Uint8Array>, changed: () => void): Promise<void> {
  const reader = body.pipeThrough(new TextDecoderStream() as ReadableWritablePair<string, Uint8Array>).getReader();
  let line = "";
  for (let part = await reader.read(); !part.done; part = await reader.read()) {
    const lines = (line + part.value).split("\n");
    line = lines.pop() ?? "";
    if (lines.some((each) => each.startsWith("data:"))) changed();
  }
}

function pause(milliseconds: number, signal: AbortSignal): Promise<void> {
  return new Promise((done) => {
    const timer = setTimeout(done, milliseconds);
    signal.addEventListener("abort", () => {
      clearTimeout(timer);
      done();
    });
  });
}

import type { ServerResponse } from "node:http";

/** What happened to a player's things, as it is sent to their pages. */
export interface LiveNote {
  readonly key: string;
  /** 0 where it was removed. */
  readonly revision: number;
}

/** The pages of all players that listen on this server. */
export interface LivePages {
  /** Adds a page. Returns `false` when the player has too many. */
  add(player: string, response: ServerResponse): boolean;
  /** Sends something to all pages of a player. */
  send(player: string, note: LiveNote): void;
  /** Has all pages of all players ask what there is: something may have happened of which no notice came. */
  sendAll(): void;
  readonly count: number;
  close(): void;
}

const mostPages = 8;
/** Milliseconds between two signs of life: proxies end what is silent for a minute. */
const beat = 20_000;

/** Opens the list of pages that listen, as streams of server-sent events (WHATWG HTML, "Server-sent events"). */
export function openLivePages(): LivePages {
  const pages = new Map<string, Set<ServerResponse>>();
  let count = 0;
  const timer = setInterval(() => {
    for (const each of pages.values()) for (const response of each) response.write(":\n\n");
  }, beat);
  timer.unref();
  return {
    add(player, response) {
      const own = pages.get(player) ?? new Set();
      if (own.size >= mostPages) return false;
      pages.set(player, own.add(response));
      count += 1;
      response.on("close", () => {
        count -= 1;
        own.delete(response);
        if (own.size === 0) pages.delete(player);
      });
      return true;
    },
    send(player, note) {
      for (const response of pages.get(player) ?? []) write(response, note);
    },
    sendAll() {
      for (const each of pages.values()) for (const response of each) write(response, {});
    },
    get count() {
      return count;
    },
    close() {
      clearInterval(timer);
      for (const each of pages.values()) for (const response of each) response.end();
    },
  };
}

function write(response: ServerResponse, note: object): void {
  // One that does not read is no page any more; it asks anew when it comes back.
  if (response.writableLength > 64_000) response.destroy();
  else response.write(`data: ${JSON.stringify(note)}\n\n`);
}

import type { FastifyRateLimitStore, FastifyRateLimitStoreCtor } from "@fastify/rate-limit";
import { LRUCache } from "lru-cache";

/** How often each has asked within a time, on all servers together. */
export interface SharedLimits {
  /** What the plugin for limits of rate counts with. */
  readonly Store: FastifyRateLimitStoreCtor;
  /** Counts what another server has counted. */
  add(key: string, timeWindow: number, times: number): void;
}

interface Count {
  times: number;
  readonly until: number;
}

/** How many are counted at once; whoever asked longest ago is forgotten first. */
const most = 100_000;

/** @param counted - is called for each request that is counted here, to send it to the other servers. */
export function openSharedLimits(counted: (key: string, timeWindow: number) => void): SharedLimits {
  const counts = new LRUCache<string, Count>({ max: most });
  const add = (key: string, timeWindow: number, times: number): Count => {
    const now = Date.now();
    const known = counts.get(key);
    const count = known === undefined || known.until <= now ? { times: 0, until: now + timeWindow } : known;
    count.times += times;
    counts.set(key, count);
    return count;
  };
  /** The counts of all routes together, or of one that has a limit of its own. */
  class Store implements FastifyRateLimitStore {
    readonly #route: string;

    constructor({ path = "" }: { readonly path?: string } = {}) {
      this.#route = path;
    }

    incr(
      asker: string,
      callback: (error: Error | null, result?: { current: number; ttl: number }) => void,
      timeWindow: number,
    ): void {
      const key = `${this.#route} ${asker}`;
      const { times, until } = add(key, timeWindow, 1);
      counted(key, timeWindow);
      callback(null, { current: times, ttl: until - Date.now() });
    }

    child({ path }: { readonly path: string }): Store {
      return new Store({ path });
    }
  }
  return { Store, add };
}

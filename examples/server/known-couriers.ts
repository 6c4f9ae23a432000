import { LRUCache } from "lru-cache";
import type { Account, StoredCharacter } from "./saved.ts";

/** A character as this server read or wrote it last, and the account it was judged by. */
export interface KnownCourier {
  readonly account: Account;
  readonly stored: StoredCharacter;
}

/**
 * Characters that were edited lately, so that the next edit need not read them. Another server may have changed one meanwhile: then the
 * database refuses what is written after the old revision. What is known of an account only grows old in one way, by purchases, so what is
 * refused because of it is judged again by what is stored.
 */
export interface KnownCouriers {
  get(player: string, id: string): KnownCourier | undefined;
  set(player: string, id: string, known: KnownCourier): void;
  /** For what changes a player's things in another way. */
  forget(player: string): void;
}

/** How many players are known, and for how many milliseconds. */
const most = 10_000;
const knownFor = 60_000;

/** Opens the list, with nobody in it. */
export function openKnownCouriers(): KnownCouriers {
  const players = new LRUCache<string, Map<string, KnownCourier>>({ max: most, ttl: knownFor });
  return {
    get: (player, id) => players.get(player)?.get(id),
    set(player, id, known) {
      players.set(player, (players.get(player) ?? new Map()).set(id, known));
    },
    forget: (player) => void players.delete(player),
  };
}

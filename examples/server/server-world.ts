import type { Database } from "zealous-mantle/server";
import type { Game } from "./game.ts";
import type { KnownCouriers } from "./known-couriers.ts";
import type { LivePages } from "./live.ts";
import type { PictureMaker } from "./pictures/picture-maker.ts";

/** What every route is given. */
export interface ServerWorld {
  readonly game: Game;
  readonly database: Database;
  readonly live: LivePages;
  readonly pictures: PictureMaker;
  readonly known: KnownCouriers;
  /** Whether players may store texts of their own under other keys, which nobody judges. */
  readonly freeKeys: boolean;
  readonly newPlayersAMinute: number;
}

import type { Catalog } from "../catalog/model/catalog.ts";
import type { SolvingContext } from "../loadout/solver.ts";
import type { Roster } from "./roster.ts";

/** What everything in a session is judged by. An update replaces the catalog and the context. */
export interface World {
  readonly roster: Roster;
  catalog: Catalog;
  context: Omit<SolvingContext, "signals">;
}

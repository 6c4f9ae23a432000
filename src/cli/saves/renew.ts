import { MantleError } from "../../core/base/problem.ts";
import type { SavesAction } from "./action.ts";

/** A database that was put back to an earlier state: every device learns of it, and compares its saves anew. */
export const renewAction: SavesAction = {
  name: "renew",
  does: "after a backup of a database was restored: have each device compare its saves with it anew",
  isOfAllPlayers: true,
  async run({ database, place, options: { write = false } }) {
    if (database === undefined)
      throw new MantleError("bad-call", `${place} is no database, and only a database is renewed.`);
    const { renewEpoch } = await import("../../server/database.ts");
    const epoch = write ? await renewEpoch(database) : undefined;
    const planned = "Each device will compare its saves with this database anew, when it comes next.";
    return {
      lines: write ? [planned, "Done."] : [planned, "Nothing was written. Run again with --write to renew it."],
      data: { epoch: epoch ?? null, written: write },
    };
  },
};

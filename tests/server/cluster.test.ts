import { describe, expect, test } from "@jest/globals";
import { openDatabase, postgresStore } from "zealous-mantle/server";
import { storeContract } from "zealous-mantle/testing";
import { openPooler } from "../../scripts/cluster/parts.ts";
import { runCluster } from "../../scripts/cluster/run-cluster.ts";
import { openOwnPostgres } from "../../scripts/postgres.ts";
import { isLong } from "../runs.ts";

// It needs programs that only a long run installs.
(isLong ? describe : describe.skip)("several machines", () => {
  test("lose nothing that was confirmed and double nothing, while each piece is killed in turn", async () => {
    const { wrong, confirmed, blows } = await runCluster(() => {}, 12);
    expect(wrong).toEqual([]);
    expect([blows.length, confirmed > 500]).toEqual([12, true]);
  });

  test("are reached through a pooler in transaction mode, which is refused where it is not known", async () => {
    const postgres = await openOwnPostgres();
    await (await openDatabase({ url: postgres.url })).close();
    const pooler = await openPooler(postgres.port);
    await expect(openDatabase({ url: pooler.url })).rejects.toMatchObject({
      code: "bad-call",
      message: expect.stringContaining("{ isPooled: true }"),
    });
    const database = await openDatabase({ url: pooler.url, isPooled: true, connections: 4 });
    for (const [number, { run }] of storeContract.entries()) await run(postgresStore(database, `player-${number}`));
    await expect(database.listen("news", { onNotice: () => {}, onGap: () => {} })).rejects.toMatchObject({
      code: "bad-call",
      message: expect.stringContaining("listenUrl"),
    });
    await database.close();
    await pooler.remove();
    await postgres.remove();
  });
});

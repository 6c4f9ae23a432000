import { randomUUID } from "node:crypto";
import { once } from "node:events";
import { request } from "node:http";
import { setFlagsFromString } from "node:v8";
import { runInNewContext } from "node:vm";
import {
  applyEdit,
  createCharacter,
  decodeSave,
  drawCrop,
  encodeSave,
  readCharacter,
  resolveLook,
} from "zealous-mantle";
import { judgeCharacter } from "zealous-mantle/judge";
import { loadImages } from "zealous-mantle/node";
import { bakeSheet, encodePng, enlargeImage } from "zealous-mantle/raster";
import { openDatabase, postgresStore, readNewest, runOnce } from "zealous-mantle/server";
import { rollCharacter } from "zealous-mantle/solver";
import { openOwnPostgres } from "../../scripts/postgres.ts";
import { openServers, type Servers } from "../server.ts";

/** What a request costs on this machine: milliseconds of one thread, or of one connection of the database. */
export interface Costs {
  /** The way through the server for a request that does nothing else. */
  readonly http: number;
  readonly judge: number;
  readonly edit: number;
  /** A save opened and its character read. */
  readonly open: number;
  readonly seal: number;
  /** A portrait of pictures that the thread has read, and one for which it has to read all of them. */
  readonly portrait: number;
  readonly firstPortrait: number;
  readonly sheet: number;
  /** A row read, and a generation written and on the disk. */
  readonly dbRead: number;
  readonly dbWrite: number;
  /** A transaction of five statements, as for a save that is sent as a whole, or a purchase. */
  readonly dbTransaction: number;
}

/** What keeping costs, in bytes. */
export interface Sizes {
  /** A stored character with the generation before it, in its table and index. */
  readonly character: number;
  /** A page that listens, together with the client that is in the same program here. */
  readonly livePage: number;
}

/** Milliseconds that something takes, over as many times as fit into a third of a second. */
async function timeOf(act: () => unknown, before = 20): Promise<number> {
  for (let warm = 0; warm < before; warm += 1) await act();
  const began = performance.now();
  let times = 0;
  for (; performance.now() - began < 300; times += 1) await act();
  return (performance.now() - began) / times;
}

/** Measures what requests cost and what is kept of them. */
export async function measureCosts(): Promise<{ readonly costs: Costs; readonly sizes: Sizes }> {
  const servers = await openServers();
  const postgres = await openOwnPostgres();
  const database = await openDatabase({ url: postgres.url });
  try {
    // First, while nothing that was used before can be used again for it.
    const livePage = await sizeOfLivePage(servers);
    const { catalog, folder } = servers.game;
    const wren = { ...rollCharacter(catalog, { seed: 7 }), id: "wren", bag: { flares: [20, 3], scarf: [1] } };
    const text = encodeSave("character", { ...wren }, { key: "character-wren", revision: 1 });
    const sent = JSON.stringify(wren);
    const look = resolveLook(catalog, { ...createCharacter(catalog, { body: wren.body }), loadout: wren.loadout });
    const images = await loadImages(folder, [look]);
    const store = postgresStore(database, "ann");
    let revision = 0;
    const write = () => {
      revision += 1;
      return store.write("character-wren", { revision, text }, [revision - 1]);
    };
    const portrait = async () => {
      const known = await loadImages(folder, [look], images);
      return encodePng(enlargeImage(drawCrop(look, known, "portrait"), 8));
    };
    const firstPortrait = async () => {
      const read = await loadImages(folder, [look]);
      return encodePng(enlargeImage(drawCrop(look, read, "portrait"), 8));
    };
    const lane = { url: `${servers.url}/nowhere`, method: "GET" as const, headers: {}, revision: 0 };
    const costs: Costs = {
      http: await timeOf(() => servers.app.inject({ method: "GET", url: lane.url })),
      judge: await timeOf(() => judgeCharacter(catalog, sent)),
      edit: await timeOf(() => applyEdit(catalog, wren, { paint: "oilcloth", ramp: "madder" }, { wardrobe: "bag" })),
      open: await timeOf(() => {
        const opened = decodeSave(text, "character");
        return opened.ok && readCharacter(opened.content);
      }),
      seal: await timeOf(() => encodeSave("character", { ...wren }, { key: "character-wren", revision: 2 })),
      portrait: await timeOf(portrait),
      firstPortrait: await timeOf(firstPortrait, 1),
      sheet: await timeOf(() => encodePng(bakeSheet(look, images).image)),
      dbWrite: await timeOf(write),
      dbRead: await timeOf(() => readNewest(database, "ann", { keys: ["account", "character-wren"] })),
      dbTransaction: await timeOf(() =>
        runOnce(database, "ann", async ({ statements }) => {
          await readNewest(statements, "ann", { isLocking: true });
          revision += 1;
          await postgresStore(statements, "ann").write("character-wren", { revision, text }, [revision - 1]);
        }),
      ),
    };
    return { costs, sizes: { character: await sizeOfCharacter(), livePage } };

    async function sizeOfCharacter(): Promise<number> {
      const size = async () =>
        Number((await database.query("SELECT pg_total_relation_size('mantle_saves') AS size"))[0]?.["size"]);
      const before = await size();
      const count = 3_000;
      for (let number = 0; number < count; number += 1) {
        const own = postgresStore(database, randomUUID());
        for (const each of [1, 2]) await own.write("character-wren", { revision: each, text }, [each - 1]);
      }
      return ((await size()) - before) / count;
    }
  } finally {
    await database.close();
    await postgres.remove();
    await servers.close();
  }
}

async function sizeOfLivePage({ url, app }: Servers): Promise<number> {
  const pages = 1_000;
  setFlagsFromString("--expose-gc");
  const collect: () => void = runInNewContext("gc");
  const size = () => {
    collect();
    return process.memoryUsage().heapUsed;
  };
  const before = size();
  const listening = await Promise.all(
    Array.from({ length: pages }, async (_, number) => {
      const headers = { authorization: `Bearer ${app.jwt.sign({ sub: `listener-${number}` })}` };
      const asking = request(`${url}/live`, { headers, agent: false }).end();
      await once(asking, "response");
      return asking;
    }),
  );
  const each = (size() - before) / pages;
  for (const asking of listening) asking.destroy();
  return each;
}

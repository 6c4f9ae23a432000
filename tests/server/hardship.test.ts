import { setTimeout as pause } from "node:timers/promises";
import { describe, expect, test } from "@jest/globals";
import { readSave, writeSave } from "zealous-mantle";
import { openDatabase, postgresStore, runOnce } from "zealous-mantle/server";
import { isLong, seed } from "../runs.ts";
import { kinds } from "./databases.ts";
import { addCourier, newPlayer, type Player, type RunningServer, useServer } from "./run-server.ts";

/** So many changes are enough, once others were refused and bought too. */
const enough = isLong ? 1_500 : 30;
const ramps = ["indigo", "mustard", "madder", "moss"];
const price = 2;
/** Milliseconds after which a server that does not answer is given up. */
const patience = 30_000;
const startBalance = 100_000;

/** What the players do, in a long run by its seed. */
let dice = seed;
/** A number from 0, below 1. The generator of S. K. Park and K. W. Miller (1988). */
function thrown(): number {
  dice = (dice * 16_807) % 2_147_483_647;
  return dice / 2_147_483_647;
}

let requests = 0;
function requestName(): string {
  requests += 1;
  return `hardship-${requests}`;
}

async function stateOf(player: Player) {
  const [{ body: stored }, { body: account }] = [
    await player.ask("GET", "/characters/wren"),
    await player.ask("GET", "/account"),
  ];
  const flares = (stored.character.bag.flares ?? []).reduce((sum: number, count: number) => sum + count, 0);
  return { revision: Number(stored.revision), flares, character: stored.character, ...account };
}

/** A player who goes on whatever happens, and knows what was confirmed. */
async function playOn(player: Player, isOver: () => boolean, cuts: boolean) {
  let { revision, character } = await untilAnswered(() => stateOf(player));
  let color: string = character.colors.oilcloth ?? "";
  let informed = 0;
  let bought = 0;
  const attempt = async (path: string, body: object): Promise<{ status: number; body: { revision: number } }> => {
    for (const end = performance.now() + patience; performance.now() < end; ) {
      const stop = new AbortController();
      const sent = fetch(url(player, path), {
        method: "POST",
        headers: { authorization: `Bearer ${player.token}`, "content-type": "application/json" },
        body: JSON.stringify(body),
        signal: AbortSignal.any([stop.signal, AbortSignal.timeout(15_000)]),
      });
      if (cuts && thrown() < 0.3) setTimeout(() => stop.abort(), thrown() * 6);
      try {
        const response = await sent;
        const answer = await response.json();
        if (response.status < 500) return { status: response.status, body: answer };
        expect([503, 500]).toContain(response.status);
      } catch (error) {
        // Nobody hangs for ever: who is not answered is cut off, and knows it.
        expect(String(error)).not.toContain("TimeoutError");
      }
      informed += 1;
      await pause(20);
    }
    throw new Error("Nobody answers any more.");
  };
  while (!isOver()) {
    const ramp = ramps[Math.floor(thrown() * ramps.length)] ?? "";
    const edited = await attempt("/characters/wren/edits", { revision, edits: [{ paint: "oilcloth", ramp }] });
    // Where the answer was lost, it may have been done: the stored one shows it.
    if (edited.status === 200) color = ramp;
    else color = (await untilAnswered(() => stateOf(player))).character.colors.oilcloth;
    revision = edited.body.revision;
    expect([200, 409]).toContain(edited.status);
    const purchase = { request: requestName(), character: "wren", part: "flares" };
    const { status, body } = await attempt("/purchases", purchase);
    expect(status).toBe(200);
    bought += 1;
    revision = body.revision;
  }
  return { revision, color, bought, informed };
}

let address = "";
function url(_player: Player, path: string): string {
  return address + path;
}

async function untilAnswered<T>(ask: () => Promise<T>): Promise<T> {
  for (const end = performance.now() + patience; ; ) {
    try {
      return await ask();
    } catch (error) {
      if (performance.now() > end) throw error;
      await pause(20);
    }
  }
}

type Hardship = "the server is killed" | "the database is stopped" | "the database is killed" | "connections are cut";

async function strike(hardship: Hardship, { end, start, postgres, url: at }: RunningServer): Promise<void> {
  if (hardship === "the server is killed") {
    await end("SIGKILL");
    await start();
  } else if (hardship === "connections are cut") {
    if (postgres === undefined) return;
    const database = await openDatabase({ url: postgres.url });
    const others =
      "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE pid <> pg_backend_pid() AND backend_type = 'client backend'";
    for (let each = 0; each < 5; each += 1) {
      await database.query(others);
      await pause(30);
    }
    await database.close();
  } else {
    await postgres?.stop(hardship === "the database is killed" ? "kill" : "stop");
    expect((await fetch(`${at}/health`)).status).toBe(503);
    await postgres?.start();
  }
}

// The database within the program takes seconds to begin, each time that the server is killed: it is for the long run.
describe.each(isLong ? kinds : kinds.slice(0, 1))("a server with %s", (kind) => {
  const server = useServer(kind, { isStopped: true });
  const isEmbedded = kind !== "PostgreSQL";
  const rounds = isLong ? 50 : 4;

  // In the quick run, many write at once where a database of its own settles who is first.
  (isLong || !isEmbedded ? test : test.skip)(
    "loses no change of sixteen writers of one character and doubles none, and revisions only grow",
    async () => {
      const ann = await newPlayer(server().url);
      const first = await addCourier(ann, "wren");
      const accepted: number[] = [];
      let bought = 0;
      let refused = 0;
      const isEnough = () => accepted.length >= enough && refused > 10 && bought > 10;
      const edit = async () => {
        let { revision } = await stateOf(ann);
        while (!isEnough()) {
          const ramp = ramps[Math.floor(thrown() * ramps.length)];
          const { status, body } = await ann.ask("POST", "/characters/wren/edits", {
            revision,
            edits: [{ paint: "oilcloth", ramp }],
          });
          expect([200, 409]).toContain(status);
          if (status === 200) accepted.push(body.revision);
          else refused += 1;
          expect(body.revision).toBeGreaterThan(revision);
          revision = body.revision;
        }
      };
      const buy = async () => {
        while (!isEnough()) {
          const purchase = { request: requestName(), character: "wren", part: "flares" };
          const { status, body } = await ann.ask("POST", "/purchases", purchase);
          expect([200, 409, 422]).toContain(status);
          if (status === 422) {
            // More do not go in: 24 places of 20 each, but for what was carried from the start.
            expect([body.problems[0].code, bought > 400]).toEqual(["bag-full", true]);
            return;
          }
          if (status !== 200) continue;
          accepted.push(body.revision);
          bought += 1;
        }
      };
      await Promise.all(Array.from({ length: 16 }, (_, number) => (number % 4 === 0 ? buy() : edit())));
      const after = await stateOf(ann);
      expect(new Set(accepted).size).toBe(accepted.length);
      expect(after.revision).toBe(first + accepted.length);
      expect([after.flares, after.counts.flares, after.balance]).toEqual([
        bought,
        bought,
        startBalance - bought * price,
      ]);
    },
  );

  (isEmbedded ? test.skip : test)(
    "a store in it fails with no-database while it is stopped, and has everything after",
    async () => {
      const { postgres } = server();
      const database = await openDatabase({ url: postgres?.url });
      const store = postgresStore(database, "ann");
      await writeSave(store, "wren", "number", 1);
      await postgres?.stop();
      await expect(store.read("wren")).rejects.toMatchObject({ code: "no-database" });
      await expect(runOnce(database, "ann", async () => 1)).rejects.toMatchObject({ code: "no-database" });
      await postgres?.start();
      expect((await readSave(store, "wren", "number")).content).toBe(1);
      await writeSave(store, "wren", "number", 2);
      await postgres?.stop("kill");
      await postgres?.start();
      expect((await readSave(postgresStore(database, "ann"), "wren", "number")).content).toBe(2);
      await database.close();
    },
  );

  const hardships: readonly Hardship[] = !isEmbedded
    ? ["the database is killed", "connections are cut", "the server is killed", "the database is stopped"]
    : ["the server is killed", "connections are cut"];

  test("loses nothing that was confirmed, whatever is killed, stopped or cut off", async () => {
    address = server().url;
    const players = await Promise.all(
      Array.from({ length: 4 }, async () => {
        const player = await newPlayer(server().url);
        await addCourier(player, "wren");
        return { player, bought: 0 };
      }),
    );
    let informed = 0;
    for (let round = 0; round < rounds; round += 1) {
      const hardship = hardships[round % hardships.length] ?? "the server is killed";
      let isOver = false;
      const playing = Promise.all(
        players.map(({ player }) => playOn(player, () => isOver, hardship === "connections are cut")),
      );
      await pause(150);
      await strike(hardship, server());
      await pause(150);
      isOver = true;
      for (const [number, after] of (await playing).entries()) {
        const known = players[number];
        if (known === undefined) continue;
        known.bought += after.bought;
        informed += after.informed;
        const stored = await untilAnswered(() => stateOf(known.player));
        expect(stored.revision).toBe(after.revision);
        expect(stored.character.colors.oilcloth).toBe(after.color);
        expect([stored.flares, stored.counts.flares]).toEqual([known.bought, known.bought]);
        expect(stored.balance).toBe(startBalance - known.bought * price);
      }
    }
    expect(informed).toBeGreaterThan(0);
  }, 600_000);
});

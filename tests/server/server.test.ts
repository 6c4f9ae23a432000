import { createHmac } from "node:crypto";
import { once } from "node:events";
import { connect } from "node:net";
import { beforeAll, describe, expect, test } from "@jest/globals";
import { readSave, removeSave, writeSave } from "zealous-mantle";
import { decodePng } from "zealous-mantle/raster";
import { storeContract } from "zealous-mantle/testing";
import { isLong } from "../runs.ts";
import { kinds } from "./databases.ts";
import { addCourier, newPlayer, type Player, playerOf, useServer } from "./run-server.ts";

let requests = 0;
function named(body: object): object {
  requests += 1;
  return { request: `request-${requests}`, ...body };
}

// The store in each database is held to its contract in `postgres-store`; a killed server with each in `hardship`.
describe.each(isLong ? kinds : kinds.slice(0, 1))("a server with %s", (kind) => {
  const server = useServer(kind);
  // Of a database within a program there is no second.
  const second =
    kind === "PostgreSQL"
      ? useServer(kind, { beside: server, settings: { REQUEST_SECONDS: "0.3", NEW_PLAYERS_A_MINUTE: "1" } })
      : server;
  let ann: Player;
  beforeAll(async () => {
    ann = await newPlayer(server().url);
    await addCourier(ann, "wren");
    await addCourier(ann, "heron");
  });
  const courier = async (id: string, player = ann) => (await player.ask("GET", `/characters/${id}`)).body;

  for (const { name, run } of storeContract) {
    test(`${name}, spoken to by HTTP`, async () => run((await newPlayer(server().url)).store));
  }

  test("lists a player's characters, and nobody else's", async () => {
    const { body } = await ann.ask("GET", "/roster");
    expect(body.roster.map(({ id }: { id: string }) => id)).toEqual(["heron", "wren"]);
    const bob = await newPlayer(server().url);
    expect((await bob.ask("GET", "/roster")).body).toEqual({ roster: [] });
    expect((await bob.ask("GET", "/characters/wren")).status).toBe(404);
    expect((await bob.store.read("character-wren")).length).toBe(0);
  });

  test("believes no token that it did not sign", async () => {
    const [head = "", body = ""] = ann.token.split(".");
    const part = (value: object) => Buffer.from(JSON.stringify(value)).toString("base64url");
    const forged = `${head}.${part({ sub: "ann" })}`;
    const tokens = [
      "",
      "nonsense",
      `${head}.${body}.`,
      `${forged}.${createHmac("sha256", "guess").update(forged).digest("base64url")}`,
      `${part({ alg: "none", typ: "JWT" })}.${body}.`,
    ];
    for (const token of tokens) {
      expect(await playerOf(server().url, token).ask("GET", "/roster")).toEqual({
        status: 401,
        body: { code: "no-token" },
      });
    }
  });

  test("refuses a character that the game could not have made, and says why", async () => {
    const kept = await ann.store.read("character-wren");
    const sent = (change: object) => addCourier(ann, "wren", change);
    await expect(sent({ bag: { flares: [3] } })).rejects.toMatchObject({
      code: "refused",
      message: expect.stringContaining('{"code":"too-many","at":"/bag/flares"}'),
    });
    await expect(sent({ loadout: { hat: "crown-of-stars" } })).rejects.toMatchObject({ code: "refused" });
    await expect(sent({ id: "heron" })).rejects.toMatchObject({ code: "refused" });
    await expect(writeSave(ann.store, "account", "account", 1)).rejects.toMatchObject({ code: "not-allowed" });
    expect(await ann.store.read("character-wren")).toEqual(kept);
  });

  test("does edits on the revision they were made on, all of them or none", async () => {
    const { revision, character } = await courier("wren");
    const edits = [{ paint: "oilcloth", ramp: "indigo" }, { remove: "hat" }];
    const done = await ann.ask("POST", "/characters/wren/edits", { revision, edits });
    expect(done).toEqual({ status: 200, body: { revision: revision + 1 } });
    const after = await courier("wren");
    expect(after.character.colors.oilcloth).toBe("indigo");
    expect(after.character.bag["storm-hat"]).toEqual([1]);
    const late = await ann.ask("POST", "/characters/wren/edits", { revision, edits });
    expect(late).toEqual({ status: 409, body: { code: "changed-elsewhere", revision: revision + 1 } });
    const half = [{ wear: "storm-hat" }, { wear: "watch-chain" }];
    const refused = await ann.ask("POST", "/characters/wren/edits", { revision: revision + 1, edits: half });
    expect(refused).toMatchObject({ status: 422, body: { code: "refused", problems: [{ code: "not-owned" }, {}] } });
    expect(await courier("wren")).toEqual(after);
    expect(character.id).toBe("wren");
    const nameless = await ann.ask("POST", "/characters/wren/edits", {
      revision: revision + 1,
      edits: [{ rename: "Courier heron" }],
    });
    expect(nameless).toMatchObject({ status: 422, body: { problems: [{ code: "name-taken" }] } });
  });

  test("sells a thing once for each request, and takes the price for it", async () => {
    const before = (await ann.ask("GET", "/account")).body.balance;
    const purchase = named({ character: "wren", part: "flares" });
    const answers = await Promise.all(Array.from({ length: 5 }, () => ann.ask("POST", "/purchases", purchase)));
    expect(new Set(answers.map((answer) => JSON.stringify(answer))).size).toBe(1);
    expect(answers[0]).toMatchObject({ status: 200, body: { balance: before - 2 } });
    const { balance, counts } = (await ann.ask("GET", "/account")).body;
    expect([balance, counts.flares, (await courier("wren")).character.bag.flares]).toEqual([before - 2, 1, [1]]);
    const dear = await ann.ask("POST", "/purchases", named({ character: "wren", part: "storm-hat" }));
    expect(dear).toMatchObject({ status: 422, body: { code: "not-for-sale" } });
  });

  test("hands things from one character to another, and never more than there are", async () => {
    await ann.ask("POST", "/purchases", named({ character: "wren", part: "flares" }));
    const carried = (await courier("wren")).character.bag.flares[0];
    const trade = named({ from: "wren", to: "heron", part: "flares", count: carried });
    expect((await ann.ask("POST", "/trades", trade)).status).toBe(200);
    expect((await ann.ask("POST", "/trades", trade)).status).toBe(200);
    expect((await courier("wren")).character.bag.flares).toBeUndefined();
    expect((await courier("heron")).character.bag.flares).toEqual([carried]);
    const more = await ann.ask("POST", "/trades", named({ from: "wren", to: "heron", part: "flares", count: 1 }));
    expect(more).toMatchObject({ status: 422, body: { problems: [{ code: "not-carried" }] } });
  });

  test("takes only answers that the catalog asks for", async () => {
    const { revision } = await courier("wren");
    const edits = (each: object) => ann.ask("POST", "/characters/wren/edits", { revision, edits: [each] });
    const forged = await edits({ fact: "is-admin", value: "yes" });
    expect(forged).toMatchObject({ status: 422, body: { problems: [{ code: "unknown-fact" }] } });
    const together = await edits({ together: [{ fact: "trade", value: "king" }] });
    expect(together).toMatchObject({ status: 422, body: { problems: [{ code: "answer-not-offered" }] } });
    expect(await edits({ fact: "trade", value: "lamps" })).toMatchObject({ status: 200 });
    expect((await courier("wren")).character.facts).toMatchObject({ trade: "lamps" });
  });

  test("bounds what one player stores", async () => {
    const eve = await newPlayer(server().url);
    const text = "x".repeat(3_900_000);
    for (const key of ["a", "b"]) await eve.store.write(key, { revision: 1, text }, []);
    await expect(eve.store.write("c", { revision: 1, text }, [])).rejects.toMatchObject({
      code: "refused",
      message: expect.stringContaining("no-room"),
    });
    await eve.store.write("b", { revision: 2, text: "" }, []);
    await eve.store.write("c", { revision: 1, text }, []);
  });

  test("refuses a number that is written as a text, or that no number can be", async () => {
    const trade = (count: unknown) => named({ from: "wren", to: "heron", part: "flares", count });
    for (const count of ["1", "1e400", [1]])
      expect(await ann.ask("POST", "/trades", trade(count))).toMatchObject({ status: 400 });
    const [newest] = await ann.store.read("character-wren");
    for (const revision of ["1e400", "0x10", "1.5", "-1", "0", "99999999999999999999"]) {
      const path = `/save?key=character-wren&revision=${revision}`;
      expect(await ann.ask("PUT", path, { text: newest?.text ?? "", keep: [] })).toMatchObject({ status: 400 });
    }
    expect((await ann.store.read("character-wren"))[0]).toEqual(newest);
  });

  test("makes each picture once, however many ask at the same time, to be kept for ever", async () => {
    const made = async () => Number(/^pictures_made (\d+)$/m.exec((await ann.ask("GET", "/metrics")).body)?.[1]);
    const before = await made();
    const { body: names } = await ann.ask("GET", "/characters/heron/pictures");
    const pictures = await Promise.all(Array.from({ length: 12 }, () => fetch(server().url + names.portrait)));
    const [bytes] = await Promise.all(pictures.map((each) => each.arrayBuffer()));
    expect(decodePng(new Uint8Array(bytes as ArrayBuffer))).toMatchObject({ width: 256, height: 288 });
    expect(pictures[0]?.headers.get("cache-control")).toBe("public, max-age=31536000, immutable");
    expect((await made()) - before).toBe(1);
    const etag = pictures[0]?.headers.get("etag") ?? "";
    const again = await fetch(server().url + names.portrait, { headers: { "if-none-match": etag } });
    expect([again.status, await again.text()]).toEqual([304, ""]);
    const otherHash = names.portrait.replace(/[0-9a-f]{32}/, "0".repeat(32));
    expect((await fetch(server().url + otherHash)).status).toBe(404);
    const revision = (await courier("heron")).revision;
    await ann.ask("POST", "/characters/heron/edits", { revision, edits: [{ paint: "skin", ramp: "umber" }] });
    const { body: repainted } = await ann.ask("GET", "/characters/heron/pictures");
    expect(repainted.portrait).not.toBe(names.portrait);
  });

  test("keeps what is a player's own from caches, and says what each answer is", async () => {
    const headers = { authorization: `Bearer ${ann.token}` };
    const roster = await fetch(`${server().url}/roster`, { headers });
    expect(roster.headers.get("cache-control")).toBe("no-store");
    const { body: names } = await ann.ask("GET", "/characters/heron/pictures");
    const picture = await fetch(server().url + names.portrait);
    for (const each of [roster, picture]) expect(each.headers.get("x-content-type-options")).toBe("nosniff");
  });

  test("sends the other pages of a player what was stored, and nobody else's", async () => {
    const stop = new AbortController();
    const bob = await newPlayer(server().url);
    const listen = async ({ token }: Player) => {
      const headers = { authorization: `Bearer ${token}` };
      const { body } = await fetch(`${server().url}/live`, { headers, signal: stop.signal });
      return body?.pipeThrough(new TextDecoderStream()).getReader();
    };
    const [page, other] = [await listen(ann), await listen(bob)];
    await page?.read();
    await other?.read();
    const { revision } = await courier("heron");
    await ann.ask("POST", "/characters/heron/edits", { revision, edits: [{ remove: "hat" }] });
    await addCourier(bob, "owl");
    expect((await page?.read())?.value).toBe(`data: {"key":"character-heron","revision":${revision + 1}}\n\n`);
    expect((await other?.read())?.value).toContain("character-owl");
    stop.abort();
  });

  test("sends pages on another server what was stored on this one, which forgets what it knew of it", async () => {
    const there = playerOf(second().url, ann.token);
    const stop = new AbortController();
    const headers = { authorization: `Bearer ${ann.token}` };
    const { body } = await fetch(`${second().url}/live`, { headers, signal: stop.signal });
    const page = body?.pipeThrough(new TextDecoderStream()).getReader();
    await page?.read();
    const { revision } = await courier("heron", there);
    await ann.ask("POST", "/characters/heron/edits", { revision, edits: [{ paint: "oilcloth", ramp: "indigo" }] });
    const expected = `data: {"key":"character-heron","revision":${revision + 1}}\n\n`;
    // What was stored before this page listened may come late.
    let told: string | undefined;
    do told = (await page?.read())?.value;
    while (told !== undefined && !told.includes(expected));
    expect(told).toContain(expected);
    const next = { revision: revision + 1, edits: [{ paint: "oilcloth", ramp: "mustard" }] };
    expect(await there.ask("POST", "/characters/heron/edits", next)).toMatchObject({ status: 200 });
    stop.abort();
  });

  (kind === "PostgreSQL" ? test : test.skip)("counts what is asked of another server, too", async () => {
    // There are players already, all of them from this address.
    await newPlayer(server().url);
    const ask = async () => (await playerOf(second().url, "").ask("POST", "/players")).status;
    let status = 0;
    // What was counted is told within a moment.
    for (let tries = 0; tries < 20 && status !== 429; tries += 1) status = await ask();
    expect([status, (await ann.ask("GET", "/health")).status]).toEqual([429, 200]);
  });

  test("describes itself in OpenAPI, with every route and what it takes", async () => {
    const { body } = await ann.ask("GET", "/openapi.json");
    expect(body.openapi).toMatch(/^3\./);
    expect(Object.keys(body.paths)).toEqual(
      expect.arrayContaining(["/players", "/save", "/characters/{id}/edits", "/purchases", "/trades", "/live"]),
    );
    const { requestBody } = body.paths["/characters/{id}/edits"].post;
    expect(requestBody.content["application/json"].schema.required).toEqual(["revision", "edits"]);
  });

  test("doubles no gear beside another one, and keeps to its limits, whatever each of them knows", async () => {
    const here = await newPlayer(server().url);
    const there = playerOf(second().url, here.token);
    await addCourier(here, "wren");
    const edit = async (player: Player, revision: number) =>
      player.ask("POST", "/characters/wren/edits", { revision, edits: [{ paint: "oilcloth", ramp: "indigo" }] });
    const bought = await here.ask("POST", "/purchases", named({ character: "wren", part: "pilot-cap" }));
    // This server knows her for a minute now, with the cap.
    const { body: known } = await edit(here, bought.body.revision);
    await removeSave(there.store, "character-wren");
    await addCourier(there, "oak", { bag: { "pilot-cap": [1] } });
    expect(await edit(here, known.revision)).toMatchObject({ status: 404 });
    expect((await here.ask("GET", "/roster")).body.roster.map(({ id }: { id: string }) => id)).toEqual(["oak"]);
    const again = addCourier(here, "wren", { bag: { "pilot-cap": [1] } });
    await expect(again).rejects.toMatchObject({ code: "refused" });
    for (let each = 0; each < 23; each += 1) await addCourier(each % 2 === 0 ? here : there, `c-${each}`);
    await expect(addCourier(there, "one-more")).rejects.toMatchObject({ code: "refused" });
    // Where one leaves, another may come.
    await removeSave(here.store, "character-c-1");
    await addCourier(there, "one-more");
  });

  test("gives up a request that does not come whole in its time", async () => {
    const { hostname, port } = new URL(second().url);
    const socket = connect(Number(port), hostname);
    let answer = "";
    socket.on("data", (chunk) => {
      answer += chunk;
    });
    const head = ["POST /purchases HTTP/1.1", "host: x", `authorization: Bearer ${ann.token}`];
    socket.write([...head, "content-type: application/json", "content-length: 9", "", "{"].join("\r\n"));
    await once(socket, "close");
    expect(answer).toMatch(/^HTTP\/1.1 408 /);
  });

  test("answers a request once, whichever server is asked, and never as if it were another", async () => {
    const here = await newPlayer(server().url);
    const there = playerOf(second().url, here.token);
    for (const id of ["wren", "heron"]) await addCourier(here, id);
    const purchase = named({ character: "wren", part: "flares" }) as { readonly request: string };
    const answers = await Promise.all([here, there].map((player) => player.ask("POST", "/purchases", purchase)));
    expect(answers[1]).toEqual(answers[0]);
    const other = { ...purchase, part: "whistle" };
    expect(await there.ask("POST", "/purchases", other)).toMatchObject({
      status: 422,
      body: { code: "other-request" },
    });
    const trade = { request: purchase.request, from: "wren", to: "heron", part: "flares", count: 1 };
    expect(await here.ask("POST", "/trades", trade)).toMatchObject({ status: 422, body: { code: "other-request" } });
    const { counts } = (await here.ask("GET", "/account")).body;
    expect([counts.flares, counts.whistle]).toEqual([1, undefined]);
  });

  test("finishes what it has taken when it is asked to end, and has it after", async () => {
    const { revision } = await courier("wren");
    const edit = { revision, edits: [{ paint: "oilcloth", ramp: "mustard" }] };
    const answer = ann.ask("POST", "/characters/wren/edits", edit);
    await new Promise((done) => setTimeout(done, 1));
    const ended = server().end("SIGTERM");
    const { status } = await answer.catch(() => ({ status: 0 }));
    expect(await ended).toBe(0);
    await server().start();
    const after = await courier("wren");
    expect(after.revision).toBe(status === 200 ? revision + 1 : revision);
    expect((await readSave(ann.store, "character-wren", "character")).problems).toEqual([]);
  });
});

describe("a server that asks for patience", () => {
  const server = useServer("PostgreSQL", {
    settings: {
      REQUESTS_A_MINUTE: "5",
      NEW_PLAYERS_A_MINUTE: "2",
      FREE_KEYS: "0",
      METRICS: "0",
      TRUSTED_PROXIES: "127.0.0.1",
    },
  });
  const from = (address: string, path: string, token = "none") =>
    fetch(server().url + path, { headers: { "x-forwarded-for": address, authorization: `Bearer ${token}` } });

  test("counts who guesses tokens by the address that its proxy names, and always tells how it is", async () => {
    for (let each = 0; each < 60; each += 1) expect((await from("10.0.0.7", "/roster")).status).toBe(401);
    expect((await from("10.0.0.7", "/roster")).status).toBe(429);
    expect((await from("10.0.0.8", "/roster")).status).toBe(401);
    for (let each = 0; each < 8; each += 1) expect((await from("10.0.0.7", "/health")).status).toBe(200);
    expect((await from("10.0.0.7", "/alive")).status).toBe(200);
    expect((await from("10.0.0.7", "/metrics")).status).toBe(404);
  });

  test("limits players, and who comes from one address, and keys that nobody judges", async () => {
    const ann = await newPlayer(server().url);
    await expect(ann.store.write("notes", { revision: 1, text: "x" }, [])).rejects.toMatchObject({ code: "refused" });
    const statuses: number[] = [];
    for (let each = 0; each < 6; each += 1) statuses.push((await ann.ask("GET", "/roster")).status);
    expect(statuses).toEqual([200, 200, 200, 200, 429, 429]);
    await expect(ann.store.list()).rejects.toMatchObject({ code: "try-later" });
    const bob = await newPlayer(server().url);
    expect((await bob.ask("GET", "/roster")).status).toBe(200);
    expect((await bob.ask("POST", "/players")).status).toBe(429);
  });
});

import { createHmac } from "node:crypto";
import { beforeAll, describe, expect, test } from "@jest/globals";
import { readSave, writeSave } from "zealous-mantle";
import { decodePng } from "zealous-mantle/authoring";
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

  test("describes itself in OpenAPI, with every route and what it takes", async () => {
    const { body } = await ann.ask("GET", "/openapi.json");
    expect(body.openapi).toMatch(/^3\./);
    expect(Object.keys(body.paths)).toEqual(
      expect.arrayContaining(["/players", "/save", "/characters/{id}/edits", "/purchases", "/trades", "/live"]),
    );
    const { requestBody } = body.paths["/characters/{id}/edits"].post;
    expect(requestBody.content["application/json"].schema.required).toEqual(["revision", "edits"]);
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
    settings: { REQUESTS_A_MINUTE: "5", NEW_PLAYERS_A_MINUTE: "2", FREE_KEYS: "0" },
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

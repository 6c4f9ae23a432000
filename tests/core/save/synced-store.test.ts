import { describe, expect, test } from "@jest/globals";
import {
  createCharacter,
  type Json,
  MantleError,
  memoryStore,
  readSave,
  removeSave,
  type Store,
  writeSave,
} from "zealous-mantle";
import { mergeSaved, type ReceivedSave, type SaveConflict, type SyncedStore, syncedStore } from "zealous-mantle/sync";
import { storeContract } from "zealous-mantle/testing";
import { demo } from "../../demo-catalog.ts";
import { fragile } from "./fragile-store.ts";

const wren = createCharacter(demo, { body: "reed", name: "Wren", id: "wren" });
const key = "character-wren";

const contentOf = async (store: Store) => (await readSave(store, key, "character")).content;
const put = (store: Store, change: object) => writeSave(store, key, "character", { ...wren, ...change } as Json);
const open = (far: Store, near = memoryStore()) => syncedStore({ near, far, merge: mergeSaved(demo) });

describe("a store that is kept in agreement with another", () => {
  for (const { name, run } of storeContract) {
    test(`${name}, while the other cannot be reached`, () => run(open(fragile(memoryStore(), () => "before"))));
  }

  test("sends what was stored, and another device finds it", async () => {
    const far = memoryStore();
    const [one, two] = [open(far), open(far)];
    await put(one, {});
    expect(await one.sync()).toMatchObject({ sent: [key], received: [] });
    expect(await two.sync()).toMatchObject({ sent: [], received: [key] });
    expect(await contentOf(two)).toEqual(wren);
    expect([await one.sync(), await two.sync()]).toEqual(new Array(2).fill(nothing));
  });

  test("merges what two devices changed of different things", async () => {
    const { one, two } = await twoDevices();
    await put(one, { name: "Wrenna" });
    await put(two, { colors: { oilcloth: "indigo" } });
    const received: unknown[] = [];
    two.on("received", ({ before, content }) => received.push([before, content]));
    await one.sync();
    expect(await two.sync()).toMatchObject({ sent: [key], received: [key], conflicts: [] });
    await one.sync();
    const both = { ...wren, name: "Wrenna", colors: { oilcloth: "indigo" } };
    expect([await contentOf(one), await contentOf(two)]).toEqual([both, both]);
    expect(received).toEqual([[{ ...wren, colors: { oilcloth: "indigo" } }, both]]);
  });

  test("keeps both sides of a conflict until one is chosen, and emits it once", async () => {
    const { one, two, far } = await twoDevices();
    const found: SaveConflict[] = [];
    two.on("conflict", (conflict) => found.push(conflict));
    await put(one, { name: "Wrenna" });
    await put(two, { name: "Wrenley" });
    await one.sync();
    expect((await two.sync()).conflicts).toHaveLength(1);
    expect((await two.sync()).conflicts).toHaveLength(1);
    expect(found).toMatchObject([
      { key, kind: "character", base: wren, mine: { name: "Wrenley" }, theirs: { name: "Wrenna" } },
    ]);
    expect([await contentOf(two), await contentOf(far)]).toMatchObject([{ name: "Wrenley" }, { name: "Wrenna" }]);
    await two.resolve(found[0] as SaveConflict, { ...wren, name: "Wrenley" });
    expect(two.conflicts).toEqual([]);
    await two.sync();
    await one.sync();
    expect(await contentOf(one)).toMatchObject({ name: "Wrenley" });
  });

  test("sends again what the other one has lost", async () => {
    const nears = [memoryStore(), memoryStore()];
    await put(open(memoryStore(), nears[0]), {});
    const store = open(memoryStore(), nears[0]);
    await store.sync();
    const empty = memoryStore();
    expect(await open(empty, nears[0]).sync()).toMatchObject({ sent: [key] });
    expect(await contentOf(empty)).toEqual(wren);
  });

  test("removes on every device what one removed, also where it was removed while it could not be reached", async () => {
    const { one, two, far } = await twoDevices();
    const received: ReceivedSave[] = [];
    two.on("received", (save) => received.push(save));
    await removeSave(one, key);
    await one.sync();
    await two.sync();
    for (const store of [one, two, far]) expect((await readSave(store, key)).kind).toBe("removed");
    expect(received).toEqual([{ key, revision: 3, before: wren, content: undefined }]);
    expect([await one.sync(), await two.sync()]).toEqual(new Array(2).fill(nothing));
  });

  test("asks where one device removed what another went on changing", async () => {
    const { one, two, far } = await twoDevices();
    await removeSave(one, key);
    await put(two, { name: "Wrenna" });
    await one.sync();
    const [conflict] = (await two.sync()).conflicts as [SaveConflict];
    expect(conflict).toMatchObject({ kind: "character", mine: { name: "Wrenna" }, theirs: undefined });
    await two.resolve(conflict, conflict.mine);
    await two.sync();
    expect(await one.sync()).toMatchObject({ received: [key] });
    for (const store of [one, two, far]) expect(await contentOf(store)).toMatchObject({ name: "Wrenna" });
  });

  test("never replaces newer play by the copy of an idle device, when a character was removed and made again", async () => {
    const { one, two, far } = await twoDevices();
    const idle = open(far);
    await idle.sync();
    await removeSave(one, key);
    await one.sync();
    await two.sync();
    await put(two, { name: "Wrenna" });
    await two.sync();
    await put(two, { name: "Wrenley" });
    await two.sync();
    expect(await idle.sync()).toMatchObject({ received: [key], sent: [] });
    expect([await contentOf(idle), await contentOf(far)]).toMatchObject([{ name: "Wrenley" }, { name: "Wrenley" }]);
  });

  test("asks where a server was restored from a backup and played on, and sends where it only fell behind", async () => {
    const server = restorable();
    const [one, two, idle] = [open(server.store), open(server.store), open(server.store)];
    await put(one, {});
    for (const each of [one, two, idle]) await each.sync();
    const backup = await server.copy();
    await put(one, { name: "Wrenna" });
    for (const each of [one, idle]) await each.sync();
    await server.restore(backup);
    // This one saw nothing of what is lost, and plays on.
    await put(two, { name: "Wrenley" });
    await two.sync();
    await put(two, { name: "Wrenling" });
    await two.sync();
    expect((await idle.sync()).conflicts).toMatchObject([
      { base: undefined, mine: { name: "Wrenna" }, theirs: { name: "Wrenling" } },
    ]);
    await server.restore(backup);
    expect(await one.sync()).toMatchObject({ sent: [key], conflicts: [] });
    expect(await contentOf(server.store)).toMatchObject({ name: "Wrenna" });
    // What was made upon that is received, though the server was put back once more.
    await two.sync();
    await two.resolve(two.conflicts[0] as SaveConflict, { ...wren, name: "Wrennet" });
    await two.sync();
    await server.restore(await server.copy());
    expect(await one.sync()).toMatchObject({ received: [key], conflicts: [] });
  });

  test("notices by itself that a store was put back, where its revisions are no longer those that were seen", async () => {
    const server = restorable({ hasEpoch: false });
    const [one, two] = [open(server.store), open(server.store)];
    await put(one, {});
    for (const each of [one, two]) await each.sync();
    const backup = await server.copy();
    await put(one, { name: "Wrenna" });
    await one.sync();
    await server.restore(backup);
    await put(two, { name: "Wrenley" });
    await two.sync();
    // The same revision, and another character.
    expect((await one.sync()).conflicts).toMatchObject([{ mine: { name: "Wrenna" }, theirs: { name: "Wrenley" } }]);
  });

  test("refuses a choice that is about something else than what is stored now", async () => {
    const { one, two, far } = await twoDevices();
    await put(one, { name: "Wrenna" });
    await one.sync();
    await put(two, { name: "Wrenley" });
    const [conflict] = (await two.sync()).conflicts as [SaveConflict];
    await put(two, { name: "Wrenley", bag: { flares: [7] } });
    await expect(two.resolve(conflict, { ...wren, name: "Wrenley" })).rejects.toMatchObject({ code: "conflict" });
    expect(await contentOf(two)).toMatchObject({ bag: { flares: [7] } });
    const [now] = (await two.sync()).conflicts as [SaveConflict];
    await two.resolve(now, now.mine);
    await two.sync();
    expect(await contentOf(far)).toMatchObject({ name: "Wrenley", bag: { flares: [7] } });
  });

  test("keeps here what the other refuses, and sends it again when it has changed", async () => {
    const far = memoryStore();
    let tried = 0;
    const strict: Store = {
      ...far,
      async write(written, generation, keep) {
        tried += 1;
        if (generation.text.includes("Forged")) throw new MantleError("refused", "No.");
        return far.write(written, generation, keep);
      },
    };
    const store = open(strict);
    await put(store, { name: "Forged" });
    expect(await store.sync()).toMatchObject({ refused: [{ key }], sent: [] });
    await store.sync();
    expect(tried).toBe(1);
    expect(await contentOf(store)).toMatchObject({ name: "Forged" });
    await put(store, { name: "True" });
    expect(await store.sync()).toMatchObject({ refused: [], sent: [key] });
  });

  test("has keys of its own, which nobody else may use", async () => {
    const store = open(memoryStore());
    await expect(store.read("sync-note:wren")).rejects.toMatchObject({ code: "bad-key" });
  });
});

const nothing = { sent: [], received: [], conflicts: [], refused: [] };

/** A store that can be put back to an earlier copy of itself, as a server is from a backup. */
function restorable({ hasEpoch = true } = {}) {
  let kept = memoryStore();
  let epoch = 1;
  const store: Store = {
    read: (...args) => kept.read(...args),
    write: (...args) => kept.write(...args),
    list: async () => ({ ...(await kept.list()), ...(hasEpoch && { epoch: String(epoch) }) }),
  };
  const copyOf = async (from: Store) => {
    const copy = memoryStore();
    for (const each of (await from.list()).keys)
      for (const [age, { revision, text = "" }] of (await from.read(each)).toReversed().entries())
        await copy.write(each, { revision, text }, age === 0 ? [] : [revision - 1]);
    return copy;
  };
  return {
    store,
    copy: () => copyOf(kept),
    async restore(backup: Store) {
      kept = await copyOf(backup);
      epoch += 1;
    },
  };
}

async function twoDevices(): Promise<{ readonly one: SyncedStore; readonly two: SyncedStore; readonly far: Store }> {
  const far = memoryStore();
  const [one, two] = [open(far), open(far)];
  await put(one, {});
  await one.sync();
  await two.sync();
  return { one, two, far };
}

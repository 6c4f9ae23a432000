import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { createCharacter, type Json, MantleError, memoryStore, readSave, type Store, writeSave } from "zealous-mantle";
import { mergeSaved, type SaveConflict, type SyncedStore, syncedStore } from "zealous-mantle/sync";
import { storeContract } from "zealous-mantle/testing";
import { demo } from "../../demo-catalog.ts";
import { runs } from "../../runs.ts";

const wren = createCharacter(demo, { body: "reed", name: "Wren", id: "wren" });
const key = "character-wren";

/** A store that can be cut off: before a call is done, or after it is done and before that is known. */
function fragile(store: Store, fails: () => "before" | "after" | undefined): Store {
  const guarded =
    <Args extends readonly unknown[], T>(call: (...args: Args) => Promise<T>) =>
    async (...args: Args): Promise<T> => {
      const failure = fails();
      if (failure === "before") throw new MantleError("no-connection", "Nobody answers.");
      const result = await call(...args);
      if (failure === "after") throw new MantleError("no-connection", "The answer was cut off.");
      return result;
    };
  return {
    read: guarded(store.read),
    write: guarded(store.write),
    list: guarded(store.list),
    remove: guarded(store.remove),
  };
}

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
    const far = memoryStore();
    const store = open(far);
    await put(store, {});
    await store.sync();
    await far.remove(key);
    expect(await store.sync()).toMatchObject({ sent: [key] });
    expect(await contentOf(far)).toEqual(wren);
  });

  test("removes there what was removed here, once it can be reached", async () => {
    const { one, far } = await twoDevices();
    await one.remove(key);
    expect((await one.list()).keys).toEqual([]);
    await one.sync();
    expect([await far.list(), await one.list()]).toEqual(new Array(2).fill({ keys: [], unknown: [] }));
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
    expect(await store.sync()).toMatchObject({ refused: [key], sent: [] });
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

  test("loses nothing and doubles nothing, wherever it is interrupted", async () => {
    const failure = fc.constantFrom(undefined, undefined, undefined, "before" as const, "after" as const);
    const act = fc.record({
      device: fc.nat(1),
      part: fc.constantFrom("flare", "sea-boots", "whistle"),
      isSynced: fc.boolean(),
    });
    await fc.assert(
      fc.asyncProperty(fc.array(act, { maxLength: 14 }), fc.infiniteStream(failure), async (acts, failures) => {
        let isFailing = false;
        const fails = () => (isFailing ? (failures.next().value as "before" | "after" | undefined) : undefined);
        const far = memoryStore();
        const nears = [memoryStore(), memoryStore()];
        // Each time a device is used, its program has begun anew.
        const device = (number: number) =>
          syncedStore({
            near: fragile(nears[number] as Store, fails),
            far: fragile(far, fails),
            merge: mergeSaved(demo),
          });
        const gained = new Map<string, number>();
        await writeSave(device(0), key, "character", { ...wren });
        await device(0).sync();
        await device(1).sync();
        for (const [act, { device: number, part, isSynced }] of acts.entries()) {
          const store = device(number);
          const now = (await contentOf(store)) as unknown as typeof wren;
          // One more, beside the stacks that a merge may have made.
          const stacks = [...(now.bag[part] ?? []), 1];
          // No two changes are the same: those would be taken for one.
          const facts = { ...now.facts, [`act-${act}`]: "done" };
          await writeSave(store, key, "character", { ...now, facts, bag: { ...now.bag, [part]: stacks } });
          gained.set(part, (gained.get(part) ?? 0) + 1);
          if (!isSynced) continue;
          isFailing = true;
          await device(number).sync().catch(onlyNoConnection);
          isFailing = false;
        }
        for (const number of [0, 1, 0, 1]) {
          const { conflicts } = await device(number).sync();
          // Where the other device stored twice since an answer was cut off, nobody knows what is in it: a player has to choose.
          for (const { mine, theirs } of conflicts) {
            expect([await contentOf(device(number)), await contentOf(far)]).toEqual([mine, theirs]);
            return;
          }
        }
        const [one, two, three] = await Promise.all([device(0), device(1), far].map(contentOf));
        expect([two, three]).toEqual([one, one]);
        const { bag } = one as unknown as typeof wren;
        const found = Object.entries(bag).map(([part, stacks]) => [part, stacks.reduce((sum, each) => sum + each, 0)]);
        expect(Object.fromEntries(found)).toEqual(Object.fromEntries(gained));
      }),
      runs(150),
    );
  });
});

const nothing = { sent: [], received: [], conflicts: [], refused: [] };

function onlyNoConnection(error: unknown): void {
  if (!(error instanceof MantleError && error.code === "no-connection")) throw error;
}

async function twoDevices(): Promise<{ readonly one: SyncedStore; readonly two: SyncedStore; readonly far: Store }> {
  const far = memoryStore();
  const [one, two] = [open(far), open(far)];
  await put(one, {});
  await one.sync();
  await two.sync();
  return { one, two, far };
}

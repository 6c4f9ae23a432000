import { describe, expect, test } from "@jest/globals";
import {
  type Character,
  createCharacter,
  memoryStore,
  openSession,
  readSave,
  type Session,
  writeSave,
} from "zealous-mantle";
import { mergeSaved, receiveSave, type SaveConflict, syncedStore } from "zealous-mantle/sync";
import { appearance, gear, part, smallCatalog } from "../../small-catalog.ts";

const catalog = smallCatalog({
  slots: { hair: appearance, hand: gear },
  parts: { flare: part("hand", { stack: 99 }) },
});
const wren = createCharacter(catalog, { body: "plain", name: "Wren", id: "wren" });

/** A device, as a game sets it up. */
async function openDevice(far = memoryStore()) {
  const store = syncedStore({ near: memoryStore(), far, merge: mergeSaved(catalog) });
  const session = await openSession({ catalog, store });
  store.on("received", (save) => receiveSave(session, save));
  return { store, session };
}

async function twoDevices() {
  const far = memoryStore();
  const [one, two] = [await openDevice(far), await openDevice(far)];
  one.session.add(wren);
  await one.session.flush();
  await one.store.sync();
  await two.store.sync();
  return { one, two };
}

const nameIn = ({ characters }: Session) => characters.map(({ name }) => name).join();

describe("a session whose store receives from another device", () => {
  test("stores what it changes after what it received, though it never overwrites", async () => {
    const { one, two } = await twoDevices();
    expect(nameIn(two.session)).toBe("Wren");
    two.session.edit("wren", { rename: "Wrenna" });
    await two.session.flush();
    two.session.seat(1).take("wren");
    await two.session.flush();
    await two.store.sync();
    await one.store.sync();
    one.session.edit("wren", { rename: "Wrenley" });
    await one.session.flush();
    expect(nameIn(one.session)).toBe("Wrenley");
  });

  test("keeps what was changed in it and is not stored yet", async () => {
    const { one, two } = await twoDevices();
    one.session.replace({ ...wren, name: "Wrenna", facts: { trade: "pilot" } });
    await one.session.flush();
    await one.store.sync();
    two.session.replace({ ...wren, name: "Wrenley", bag: { flare: [3] } });
    await two.store.sync();
    const both = { name: "Wrenley", facts: { trade: "pilot" }, bag: { flare: [3] } };
    expect(two.session.characters).toMatchObject([both]);
    expect(two.session.isUnsaved("wren")).toBe(true);
    await two.session.flush();
    await two.store.sync();
    await one.store.sync();
    expect(one.session.characters).toMatchObject([both]);
  });

  test("loses whoever another device removed, and nobody who is changed here meanwhile", async () => {
    const { one, two } = await twoDevices();
    one.session.remove("wren");
    await one.session.flush();
    await one.store.sync();
    two.session.edit("wren", { rename: "Wrenna" });
    await two.store.sync();
    expect(nameIn(two.session)).toBe("Wrenna");
    await two.session.flush();
    await two.store.sync();
    await one.store.sync();
    expect(nameIn(one.session)).toBe("Wrenna");
    one.session.remove("wren");
    await one.session.flush();
    await one.store.sync();
    await two.store.sync();
    expect(two.session.characters).toEqual([]);
  });

  test("has what was chosen in a conflict, and goes on from there", async () => {
    const { one, two } = await twoDevices();
    one.session.edit("wren", { rename: "Wrenna" });
    two.session.edit("wren", { rename: "Wrenley" });
    for (const { session, store } of [one, two]) {
      await session.flush();
      await store.sync();
    }
    const [conflict] = two.store.conflicts as [SaveConflict];
    await two.store.resolve(conflict, conflict.theirs);
    expect(nameIn(two.session)).toBe("Wrenna");
    two.session.edit("wren", { rename: "Wrennet" });
    await two.session.flush();
    await two.store.sync();
    await one.store.sync();
    expect(nameIn(one.session)).toBe("Wrennet");
  });

  test("does not replace what it cannot compare: two that were made under one id", async () => {
    const { one, two } = { one: await openDevice(), two: await openDevice() };
    const other: Character = { ...wren, name: "Owl" };
    one.session.add(other);
    await writeSave(two.store, "character-wren", "character", { ...wren });
    const found = await readSave(two.store, "character-wren");
    receiveSave(one.session, {
      key: "character-wren",
      revision: found.revision,
      before: undefined,
      content: { ...wren },
    });
    expect(nameIn(one.session)).toBe("Owl");
  });
});

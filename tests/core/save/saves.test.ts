import { mkdtemp, readdir, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  type Character,
  createCharacter,
  decodeSave,
  encodeSave,
  type Json,
  memoryStore,
  openSession,
  readCharacter,
  readSave,
  type Store,
  writeSave,
} from "zealous-mantle";
import { fileStore } from "zealous-mantle/node";
import { rollCharacter } from "zealous-mantle/solver";
import { conflictError } from "zealous-mantle/sync";
import { storeContract } from "zealous-mantle/testing";
import { demo } from "../../demo-catalog.ts";
import { inWords } from "../../in-words.ts";
import { runs } from "../../runs.ts";

let folder = "";
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "mantle-saves-"));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const wren = createCharacter(demo, { body: "reed", name: "Wren", id: "wren" });
const heron = createCharacter(demo, { body: "oak", name: "Heron", id: "heron" });

describe("a sealed save", () => {
  test("opens as what was sealed, whatever it was", () => {
    fc.assert(
      fc.property(fc.jsonValue(), fc.string(), (value, kind) => {
        // JSON knows no negative zero.
        const content = JSON.parse(JSON.stringify(value)) as Json;
        fc.pre(isWellFormed(JSON.stringify([content, kind])));
        expect(decodeSave(encodeSave(kind, content))).toEqual({ ok: true, kind, content, address: undefined });
      }),
    );
  });

  test("is the same text for the same content, whatever the order of its keys", () => {
    expect(encodeSave("x", { b: 1, a: [2, { d: 3, c: 4 }] })).toBe(encodeSave("x", { a: [2, { c: 4, d: 3 }], b: 1 }));
  });

  test("does not open when any letter of it is changed or cut off", () => {
    const text = encodeSave("character", { ...wren });
    fc.assert(
      fc.property(fc.nat(text.length - 1), fc.string({ minLength: 0, maxLength: 2 }), (at, other) => {
        const changed = text.slice(0, at) + other + text.slice(at + 1);
        fc.pre(changed !== text && !sameJson(changed, text));
        expect(decodeSave(changed).ok).toBe(false);
      }),
      runs(300),
    );
  });

  test.each([
    ["{", /cut short, or it is not JSON/],
    ["null", /not a save of this format/],
    ['{"mantle":"save/2","kind":"x","content":1,"seal":"s"}', /has the form save\/2, which a newer version wrote/],
    ['{"mantle":"save/1","kind":"x","seal":"s"}', /not a save of this format/],
    [encodeSave("profile", {}), /holds a profile, not a character/],
  ])("%s says why it does not open", (text, words) => {
    const opened = decodeSave(text, "character");
    expect(opened.ok ? "" : inWords(opened.reason)).toMatch(words);
  });
});

describe("a character's document", () => {
  test("is read back from its save exactly", () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const character = rollCharacter(demo, { seed, name: "Élodie 潮" });
        const opened = decodeSave(encodeSave("character", { ...character }));
        expect(opened.ok && readCharacter(opened.content)).toEqual({ character, problems: [] });
      }),
      runs(60),
    );
  });

  test("of another form is refused with every reason, and nothing is thrown", () => {
    const flawed = { ...wren, bag: { oar: [0] }, body: 3, wings: 2 };
    expect(
      readCharacter(flawed)
        .problems.map(({ place }) => place.pointer)
        .sort(),
    ).toEqual(["", "/bag/oar/0", "/body"]);
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        const { character, problems } = readCharacter(value);
        expect(character === undefined).toBe(problems.length > 0);
      }),
    );
  });
});

const stores: readonly (readonly [string, () => Store])[] = [
  ["memory", memoryStore],
  ["file", () => fileStore(join(folder, `store-${Math.random()}`))],
];

describe.each(stores)("the %s store", (_name, open) => {
  test.each(storeContract)("$name", ({ run }) => run(open()));

  test("when no generation is whole, that is an error and nothing is made up", async () => {
    const store = open();
    await store.write("wren", { revision: 1, text: "null" }, []);
    await store.write("wren", { revision: 2, text: "{" }, [1]);
    const found = await readSave(store, "wren", "number");
    expect(found.content).toBeUndefined();
    expect(found.problems.map(({ severity }) => severity)).toEqual(["warning", "error"]);
  });
});

describe("a session", () => {
  test("gives every scene the same character, without the scene naming it", async () => {
    const store = memoryStore();
    const first = await openSession({ catalog: demo, store });
    expect([first.characters, first.seat(1).character, first.problems]).toEqual([[], undefined, []]);
    first.add(wren);
    first.add(heron);
    first.seat(1).take("wren");
    first.seat(2).take("heron");
    await first.close();

    const second = await openSession({ catalog: demo, store });
    expect(second.characters).toEqual([wren, heron]);
    expect([second.seat(1).character, second.seat(2).character, second.seat(3).character]).toEqual([
      wren,
      heron,
      undefined,
    ]);
  });

  test("survives a restart in a folder", async () => {
    const place = join(folder, "restart");
    const session = await openSession({ catalog: demo, store: fileStore(place) });
    session.add(wren);
    session.seat(1).take("wren");
    await session.flush();
    session.replace({ ...wren, name: "Wren the Second" });
    await session.flush();
    const files = await readdir(place, { recursive: true });
    expect(files.filter((file) => file.endsWith(".json")).sort()).toEqual([
      "character-wren/2.save.json",
      "character-wren/3.save.json",
      "profile/2.save.json",
      "profile/3.save.json",
    ]);

    const current = join(place, "character-wren/3.save.json");
    await writeFile(current, (await readFile(current, "utf8")).slice(0, 100));
    const again = await openSession({ catalog: demo, store: fileStore(place) });
    expect(again.seat(1).character).toEqual(wren);
    expect(again.problems).toMatchObject([{ code: "damaged-save", place: { file: "character-wren" } }]);
  });

  test("keeping a character again changes it in every seat, and emits that", async () => {
    const session = await openSession({ catalog: demo, store: memoryStore() });
    const received: (string | undefined)[] = [];
    const stop = session.on("change", () => received.push(session.seat(1).character?.name));
    session.add(wren);
    session.seat(1).take("wren");
    session.replace({ ...wren, name: "Kite" });
    stop();
    session.replace(wren);
    expect(received).toEqual([undefined, "Wren", "Kite"]);
  });

  test("removes a character for good, with its seat and its save", async () => {
    const store = memoryStore();
    const session = await openSession({ catalog: demo, store });
    for (const each of [wren, heron]) session.add(each);
    session.seat(1).take("wren");
    await session.flush();
    const emptied: unknown[] = [];
    session.on("seat", ({ seat, after }) => emptied.push([seat, after]));
    session.remove("wren");
    expect([session.characters, session.seat(1).character, emptied]).toEqual([[heron], undefined, [[1, undefined]]]);
    expect(() => session.remove("wren")).toThrow("no character");
    await session.close();
    expect((await readSave(store, "character-wren", "character")).kind).toBe("removed");
    const again = await openSession({ catalog: demo, store });
    expect([again.characters, again.problems]).toEqual([[heron], []]);
    // Somebody of the same name is somebody else.
    again.add({ ...wren, name: "Wrenna" });
    await again.close();
    expect((await openSession({ catalog: demo, store })).characters.map(({ name }) => name)).toEqual([
      "Heron",
      "Wrenna",
    ]);
  });

  test("reports a profile that is gone, and one that is damaged only once; a first flush that was cut off is neither", async () => {
    const files = join(folder, "profiles");
    const open = () => openSession({ catalog: demo, store: fileStore(files) });
    const codes = async () => (await open()).problems.map(({ code }) => code);
    const session = await open();
    session.add(wren);
    await session.close();
    for (const name of await readdir(join(files, "profile"))) await writeFile(join(files, "profile", name), "{");
    const damaged = await open();
    expect(damaged.problems.map(({ code }) => code)).toEqual(["damaged-save", "damaged-save"]);
    await damaged.close();
    expect(await codes()).toEqual([]);
    await rm(join(files, "profile"), { recursive: true });
    expect(await codes()).toEqual(["missing-profile"]);
    // The second generation of a first save is a copy.
    await rm(join(files, "character-wren/2.save.json"));
    expect(await codes()).toEqual(["missing-profile"]);
  });

  test.each([1, 2, 3, 4, 5, 6])(
    "opens without a problem after the first flush was cut off at write %i",
    async (last) => {
      const kept = memoryStore();
      let writes = 0;
      const store: Store = {
        ...kept,
        async write(...args) {
          writes += 1;
          if (writes >= last) throw new Error("The lamp went out.");
          return kept.write(...args);
        },
      };
      const session = await openSession({ catalog: demo, store });
      session.add(wren);
      await session.flush().catch(() => undefined);
      expect((await openSession({ catalog: demo, store: { ...kept } })).problems).toEqual([]);
    },
  );

  test("what could not be stored is said, and tried again at the next flush", async () => {
    const kept = memoryStore();
    let full = true;
    const store: Store = {
      ...kept,
      write: async (key, generation, keep) => {
        if (full) throw new Error("The disk is full");
        await kept.write(key, generation, keep);
      },
    };
    const session = await openSession({ catalog: demo, store });
    session.add(wren);
    session.seat(1).take("wren");
    await expect(session.flush()).rejects.toThrow("The disk is full");
    await expect(session.close()).rejects.toThrow("The disk is full");
    full = false;
    expect(await openSession({ catalog: demo, store })).toBe(session);
    await session.close();
    expect((await openSession({ catalog: demo, store })).seat(1).character).toEqual(wren);
  });

  test("content of another form in a whole save is reported, and the others are there", async () => {
    const store = memoryStore();
    await writeSave(store, "character-odd", "character", { wings: 2 });
    await writeSave(store, "character-wren", "character", { ...wren });
    await writeSave(store, "profile", "profile", { seats: { "1": "odd", "2": "wren", "3": 7 } });
    const session = await openSession({ catalog: demo, store });
    expect(session.characters).toEqual([wren]);
    expect([session.seat(1).character, session.seat(2).character]).toEqual([undefined, wren]);
    expect(session.problems.length).toBeGreaterThan(0);
    for (const { code, place } of session.problems)
      expect([code, place.file]).toEqual(["not-a-character", "character-odd"]);
  });

  test("what the next opening would refuse is refused at once, and spoils no flush", async () => {
    const store = memoryStore();
    const session = await openSession({ catalog: demo, store });
    session.add(wren);
    const wrong: readonly Character[] = [
      { ...wren, id: "Not An Id" },
      { ...wren, id: "x".repeat(65) },
      { ...wren, id: "odd", bag: { flares: [Number.NaN] } },
      { ...wren, id: "odd", bag: { flares: [] } },
      { ...wren, id: "odd", name: "x".repeat(300) },
    ];
    for (const character of wrong)
      expect(() => session.add(character)).toThrow(expect.objectContaining({ code: "not-a-character" }));
    expect(() => session.replace({ ...wren, bag: { flares: [0.5] } })).toThrow(/cannot be kept/);
    expect(session.edit("wren", { fact: "note", value: "x".repeat(600) })).toMatchObject({ ok: false });
    await session.close();
    expect((await openSession({ catalog: demo, store })).characters).toEqual([wren]);
  });

  test("adds nobody in the place of another, and replaces nobody who is not there", async () => {
    const session = await openSession({ catalog: demo, store: memoryStore() });
    const [one, other] = [1, 2].map(() => createCharacter(demo, { body: "reed", name: "Mira" }));
    for (const each of [one, other]) if (each !== undefined) session.add(each);
    expect(session.characters.map(({ name }) => name)).toEqual(["Mira", "Mira"]);
    session.add(wren);
    expect(() => session.add({ ...heron, id: "wren" })).toThrow(expect.objectContaining({ code: "character-exists" }));
    expect(() => session.replace(heron)).toThrow(expect.objectContaining({ code: "unknown-character" }));
    expect(session.characters.at(-1)).toBe(wren);
  });

  test("replaces what another one stored where it was opened to, even when both store at once", async () => {
    const store = memoryStore();
    const open = () => openSession({ catalog: demo, store: { ...store }, conflicts: "overwrite" });
    const first = await open();
    first.add(wren);
    await first.close();
    const [one, other] = [await open(), await open()];
    one.edit("wren", { rename: "Tern" });
    other.edit("wren", { rename: "Rail" });
    await Promise.all([one.flush({}), other.flush()]);
    const [newest] = (await open()).characters;
    expect(["Tern", "Rail"]).toContain(newest?.name);
    one.edit("wren", { rename: "Knot" });
    await one.flush();
    other.edit("wren", { rename: "Dunlin" });
    await expect(other.flush({ overwrite: false })).rejects.toMatchObject({ code: "changed-elsewhere" });
    expect((await open()).characters.map(({ name }) => name)).toEqual(["Knot"]);
  });

  test("a store that refuses without having anything newer is not asked for ever", async () => {
    const kept = memoryStore();
    const write: Store["write"] = async (key) => {
      throw conflictError(key);
    };
    await expect(writeSave({ ...kept, write }, "wren", "number", 1)).rejects.toMatchObject({
      code: "changed-elsewhere",
    });
  });

  test("content of a missing pack is kept in the save, and comes back", async () => {
    const store = memoryStore();
    const odd: Character = { ...wren, loadout: { hat: "moon-hat" }, bag: { "moon-boots": [2] } };
    const session = await openSession({ catalog: demo, store });
    session.add(odd);
    await session.close();
    expect((await openSession({ catalog: demo, store })).characters).toEqual([odd]);
  });

  test("seats are numbered from 1, and only characters of the roster are seated", async () => {
    const session = await openSession({ catalog: demo, store: memoryStore() });
    expect(() => session.seat(0)).toThrow(expect.objectContaining({ code: "bad-seat" }));
    expect(() => session.seat(1).take("wren")).toThrow(expect.objectContaining({ code: "unknown-character" }));
  });
});

function isWellFormed(text: string): boolean {
  return !/\\ud[89a-f][0-9a-f]{2}/i.test(text) && !/[\ud800-\udfff]/u.test(text);
}

function sameJson(one: string, other: string): boolean {
  try {
    return JSON.stringify(JSON.parse(one)) === JSON.stringify(JSON.parse(other));
  } catch {
    return false;
  }
}

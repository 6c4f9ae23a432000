import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  type Character,
  type CuePayload,
  countGear,
  createCharacter,
  createFromPreset,
  MantleError,
  memoryStore,
  openSession,
  pickSeats,
  placeSeats,
  purchase,
  readCatalog,
  resolveLook,
  type Session,
  type SessionOptions,
} from "zealous-mantle";
import { solver } from "zealous-mantle/solver";
import { demo } from "../../demo-catalog.ts";
import { inWords } from "../../in-words.ts";
import { runs } from "../../runs.ts";
import { appearance, part, smallCatalog, smallSource } from "../../small-catalog.ts";

const wren = createCharacter(demo, { body: "reed", name: "Wren", id: "wren" });
const heron = createFromPreset(demo, "old-hand", { id: "heron", name: "Heron" });
const tern = createFromPreset(demo, "lamp-child", { id: "tern", name: "Tern" });

async function openWith(options: Partial<SessionOptions> = {}, ...characters: readonly Character[]): Promise<Session> {
  const session = await openSession({ catalog: demo, store: memoryStore(), ...options });
  for (const character of characters) session.add(character);
  return session;
}
const ids = (characters: readonly Character[]) => characters.map(({ id }) => id);
const codeOf = (call: () => unknown) => {
  try {
    call();
  } catch (error) {
    return error instanceof MantleError ? error.code : error;
  }
  return "fine";
};

describe("the roster", () => {
  test("keeps its order, copies with names of their own, retires and restores, and is found again", async () => {
    const store = memoryStore();
    const session = await openWith({ store, maxCharacters: 4 }, wren, heron, tern);
    session.move("tern", 0);
    const copy = session.duplicate("wren");
    expect([copy.id, copy.name]).toEqual(["wren-2", "Wren 2"]);
    expect(ids(session.characters)).toEqual(["tern", "wren", "heron", "wren-2"]);
    expect([session.isFull, codeOf(() => session.duplicate("wren-2"))]).toEqual([true, "roster-full"]);
    session.retire("heron");
    expect(session.duplicate("wren-2").name).toBe("Wren 3");
    expect(codeOf(() => session.restore("heron"))).toBe("roster-full");
    session.retire("wren-2");
    session.restore("heron");
    expect(ids(session.retired)).toEqual(["wren-2"]);
    expect([...ids(session.characters)].sort()).toEqual(["heron", "tern", "wren", "wren-3"]);
    await session.close();
    const again = await openSession({ catalog: demo, store, maxCharacters: 4 });
    expect([again.characters, again.retired]).toEqual([session.characters, session.retired]);
  });

  test("a name that another bears is refused, one's own is not", async () => {
    const session = await openWith({}, wren, heron);
    const taken = session.edit("wren", { rename: "heron" });
    expect(taken.ok ? [] : taken.problems.map(({ code }) => code)).toEqual(["name-taken"]);
    expect(session.edit("wren", { rename: "Wren" }).ok).toBe(true);
    expect(session.edit("wren", { wear: "scarf" }).ok).toBe(true);
    expect(session.characters[0]?.loadout).toEqual({ neck: "scarf" });
    expect(codeOf(() => session.edit("nobody", { remove: "hat" }))).toBe("unknown-character");
  });

  test("a copy of a long name is no longer than names may be", async () => {
    const session = await openWith({}, { ...wren, name: "A name of sixteen".slice(0, 16) });
    expect(session.duplicate("wren").name).toBe("A name of sixt 2");
  });
});

describe("seats", () => {
  test("are joined by pressing, each device its own, and given up", async () => {
    const session = await openWith({ seats: 2 }, wren);
    expect(session.seatOf("keys")).toBeUndefined();
    expect([session.join("keys")?.number, session.join("pad-0")?.number, session.join("keys")?.number]).toEqual([
      1, 2, 1,
    ]);
    expect(session.seatOf("keys")).toBe(session.seat(1));
    expect(session.join("pad-1")).toBeUndefined();
    session.seat(2).take("wren");
    session.leave("pad-0");
    expect([session.seat(2).character, session.seats.map(({ number }) => number)]).toEqual([undefined, [1]]);
    expect(session.join("pad-1")?.number).toBe(2);
  });

  test("are found again by their devices on the next page, in whichever order they press; who is new takes none that is waited for", async () => {
    const store = memoryStore();
    const session = await openWith({ store, seats: 3 }, wren, heron);
    for (const device of ["keys", "pad-0", "pad-1"]) session.join(device);
    session.seat(1).take("wren");
    session.seat(2).take("heron");
    session.leave("pad-1");
    await session.close();
    const again = await openWith({ store, seats: 3 });
    expect(again.seats.map(({ number, device }) => [number, device])).toEqual([
      [1, undefined],
      [2, undefined],
    ]);
    expect(["pad-7", "pad-0", "keys"].map((device) => again.join(device)?.number)).toEqual([3, 2, 1]);
    expect([again.seat(1), again.seat(2)].map(({ character, device }) => [character?.id, device])).toEqual([
      ["wren", "keys"],
      ["heron", "pad-0"],
    ]);
    await again.close();
    // Where nobody returns, a seat that is waited for is given away at last.
    const last = await openWith({ store, seats: 3 });
    expect(["a", "b", "c", "d"].map((device) => last.join(device)?.number)).toEqual([1, 2, 3, undefined]);
  });

  test("that are exclusive refuse a character that sits elsewhere; the retired sit nowhere", async () => {
    const session = await openWith({ exclusive: true }, wren, heron);
    session.seat(1).take("wren");
    session.seat(1).take("wren");
    expect(codeOf(() => session.seat(2).take("wren"))).toBe("taken");
    session.retire("wren");
    expect([session.seat(1).character, codeOf(() => session.seat(1).take("wren"))]).toEqual([undefined, "retired"]);
    expect([codeOf(() => session.seat(1).take("nobody")), codeOf(() => session.seat(0.5))]).toEqual([
      "unknown-character",
      "bad-seat",
    ]);
  });

  test("of one look are painted in different ramps, and keep their own colors when they are not alike any more", async () => {
    const session = await openWith({ distinguishBy: ["oilcloth", "accent"] }, wren, { ...wren, id: "twin" }, heron);
    for (const [at, id] of ["wren", "twin", "heron"].entries()) session.seat(at + 1).take(id);
    session.edit("wren", { wear: "scarf" });
    session.edit("twin", { wear: "scarf" });
    const accent = (seat: number) =>
      session.seat(seat).look?.layers.find(({ recolor }) => recolor?.channel === "accent")?.recolor?.ramp;
    expect(accent(1)).not.toBe(accent(2));
    expect(session.seat(3).look?.key).toBe(resolveLook(demo, heron).key);
    // Dyed otherwise where it hardly shows, they are as alike as before.
    session.edit("twin", { paint: "leather", ramp: "tar" });
    expect(accent(1)).not.toBe(accent(2));
    session.edit("twin", { paint: "accent", ramp: "teal" });
    expect([accent(1), accent(2)]).toEqual(["madder", "teal"]);
    session.edit("twin", { paint: "accent", ramp: "madder" });
    session.seat(2).leave();
    expect(accent(1)).toBe("madder");
    expect(session.seat(1).character?.colors).toEqual({});
  });

  test("look as the signals say, their own before the session's; the same object until something changes", async () => {
    const session = await openWith({}, wren, heron);
    session.seat(1).take("wren");
    session.seat(2).take("heron");
    const received: string[] = [];
    session.on("look", ({ seat, look }) => received.push(`${seat} ${look?.form}`));
    const before = session.seat(1).look;
    session.signal({ "in-water": true });
    session.signal({ "in-water": true });
    session.seat(2).signal({ "in-water": false });
    session.seat(1).signal({ stamina: 9 });
    expect(received).toEqual(["1 wading", "2 wading", "2 undefined"]);
    session.signal({ "in-water": false });
    expect(received.at(-1)).toBe("1 undefined");
    expect(session.seat(1).look?.key).toBe(before?.key);
    session.seat(1).signal({ stamina: 1 });
    session.seat(1).signal({ stamina: 3 });
    expect(session.seat(1).look?.form).toBe("weary");
    const weary = session.seat(1).look;
    expect(session.seat(1).look).toBe(weary);
    session.seat(1).signal({ stamina: 4 });
    expect(session.seat(1).look?.form).toBeUndefined();
  });
});

describe("scenes", () => {
  test("that overlap have one session, until it is closed; another catalog is refused meanwhile", async () => {
    const store = memoryStore();
    const [one, other] = await Promise.all([1, 2].map(() => openSession({ catalog: demo, store })));
    expect(one).toBe(other);
    one?.add(wren);
    one?.seat(1).take("wren");
    expect(other?.seat(1).character).toBe(wren);
    const { catalog } = readCatalog(smallSource({}));
    if (catalog === undefined) throw new Error("The catalog cannot be read");
    await expect(openSession({ catalog, store })).rejects.toThrow("Close it first");
    await one?.close();
    const again = await openSession({ catalog: demo, store });
    expect([again === one, again.seat(1).character]).toEqual([false, wren]);
  });

  test("that open while another closes wait until everything is stored; closed twice, it takes nothing from who came after", async () => {
    const store = memoryStore();
    const session = await openWith({ store }, wren);
    const closing = session.close();
    const again = await openSession({ catalog: demo, store });
    expect([again === session, again.characters]).toEqual([false, [wren]]);
    await closing;
    await session.close();
    expect(await openSession({ catalog: demo, store })).toBe(again);
  });

  test.each(["character-wren", "profile"])("that could not store everything, as %s, stay open", async (full) => {
    const kept = memoryStore();
    let isFull = true;
    const write = (...args: Parameters<typeof kept.write>) =>
      isFull && args[0] === full ? Promise.reject(new Error("Disk full")) : kept.write(...args);
    const store = { ...kept, write };
    const session = await openWith({ store }, wren);
    await expect(session.close()).rejects.toThrow("Disk full");
    expect(await openSession({ catalog: demo, store })).toBe(session);
    isFull = false;
    await session.close();
    expect((await openSession({ catalog: demo, store })).characters).toEqual([wren]);
  });

  test("try again to open what could not be read", async () => {
    const kept = memoryStore();
    let isBroken = true;
    const store = { ...kept, list: () => (isBroken ? Promise.reject(new Error("No disk")) : kept.list()) };
    await expect(openSession({ catalog: demo, store })).rejects.toThrow("No disk");
    isBroken = false;
    expect((await openSession({ catalog: demo, store })).characters).toEqual([]);
  });

  test("hear what is wrong in a seat: of what is missing, and of rules that break as the game goes on", async () => {
    const odd = { ...wren, loadout: { hat: "moon-hat" } };
    const laden = { ...heron, loadout: { back: "mail-pack" } };
    const session = await openWith({}, odd, laden);
    const received: string[] = [];
    session.on("problems", ({ seat, problems }) => received.push(`${seat} ${problems.map(({ code }) => code).join()}`));
    session.seat(1).take("wren");
    session.seat(2).take("heron");
    session.seat(2).signal({ flood: true });
    expect(session.seat(2).problems.map(inWords)).toEqual([
      expect.stringContaining("In a flood the mail goes with something that floats."),
    ]);
    expect(session.seat(2).problems).toBe(session.seat(2).problems);
    session.seat(2).signal({ flood: false });
    session.edit("wren", { wear: "scarf" });
    expect(session.seat(1).problems.map(({ place }) => place.pointer)).toEqual(["/loadout/hat"]);
    session.edit("wren", { wear: "storm-hat" });
    expect(session.seat(1).problems.map(({ place }) => place.pointer)).toEqual(["/bag/moon-hat"]);
    expect(received).toEqual(["1 unknown-part", "2 needs-missing", "2 ", "1 unknown-part"]);
  });

  test("have fixes that put something on where the session has the search, and later from then on", async () => {
    const chained = { ...wren, loadout: { chain: "watch-chain" } };
    const session = await openWith({}, chained);
    session.seat(1).take("wren");
    const edits = () => session.seat(1).problems.flatMap(({ fixes }) => fixes.map((fix) => fix.edits));
    expect(edits()).toEqual([[{ remove: "chain" }]]);
    session.update({ solver });
    expect(edits()).toEqual([[{ remove: "chain" }], [{ wear: "waistcoat", in: "vest" }]]);
  });

  test("are judged anew when rights change: a purchase is taken over by an open session", async () => {
    const context = { wardrobe: "bag", holdings: {} } as const;
    const hat = "storm-hat";
    const session = await openWith({ context }, { ...wren, bag: { [hat]: [1] } });
    session.seat(1).take("wren");
    const received: string[] = [];
    session.on("problems", ({ problems }) => received.push(problems.map(({ code }) => code).join()));
    expect(session.edit("wren", { wear: hat })).toMatchObject({ ok: false, problems: [{ code: "not-owned" }] });
    const bought = purchase(demo, session.characters[0] ?? wren, hat, { holdings: {}, balance: 100 });
    session.replace(bought.character);
    session.update({ holdings: bought.holdings });
    expect(session.edit("wren", { wear: hat }).ok).toBe(true);
    expect(session.seat(1).problems).toEqual([]);
    // What was lent is asked back.
    session.update({ holdings: {} });
    expect(session.seat(1).problems.map(({ code }) => code)).toContain("not-owned");
    session.update({ stats: {} });
    expect(received).toEqual(["", "not-owned,not-owned"]);
  });

  test("place figures at their spawn points: those that are meant come first, and nobody stands in another while there is room", () => {
    const [door, gate, boat] = [
      { x: 1, y: 1, from: "street" },
      { x: 2, y: 2 },
      { x: 3, y: 3, seat: 2, from: "street" },
    ] as const;
    const spawns = [gate, door, boat];
    expect([...placeSeats([1, 2, 3], spawns, { from: "street" })]).toEqual([
      [1, door],
      [2, boat],
      [3, door],
    ]);
    expect([...placeSeats([1, 2, 3], spawns)].map(([, { x }]) => x)).toEqual([2, 2, 2]);
    expect([...placeSeats([3, 1], [gate, { x: 9, y: 9 }])].map(([seat, { x }]) => [seat, x])).toEqual([
      [3, 2],
      [1, 9],
    ]);
    expect(codeOf(() => placeSeats([1], [boat]))).toBe("no-spawn");
    expect([...placeSeats([], [])]).toEqual([]);
  });
});

describe("a cue", () => {
  const clocked = async (...characters: readonly Character[]) => {
    const clock = { now: 100 };
    const session = await openWith({ now: () => clock.now }, ...characters);
    session.seat(1).take(characters[0]?.id ?? "");
    return { session, clock };
  };
  const codes = (outcomes: ReturnType<Session["raise"]>) => outcomes.map(({ ok, code }) => (ok ? "done" : code));
  /** What comes of the first of the locker's costumes. */
  const touchLocker = (session: Session, payload: CuePayload = { by: "player" }, seat = 1) =>
    session.raise("touch:locker", { ...payload, outfit: "storm-watch" }, { seat }).slice(0, 1);

  test("follows when the player does it, and not when a bystander does, nor without a reason, nor too soon again", async () => {
    const { session, clock } = await clocked(wren);
    expect(touchLocker(session, {}).map(({ because }) => inWords(because))).toEqual([
      '"by" is not said, and has to be "player".',
    ]);
    expect(codes(touchLocker(session, { by: "gull" }))).toEqual(["guard"]);
    expect(codes(touchLocker(session))).toEqual(["done"]);
    expect(session.seat(1).character?.loadout).toMatchObject({ coat: "oilskin", hat: "storm-hat" });
    session.edit("wren", { remove: "hat" });
    clock.now += 0.5678;
    expect(touchLocker(session).map(({ code, because }) => [code, inWords(because)])).toEqual([
      ["resting", "It was followed 0.5 seconds ago, and rests for 1."],
    ]);
    clock.now += 1;
    expect(codes(touchLocker(session))).toEqual(["done"]);
    clock.now += 2;
    const [full] = touchLocker(session);
    expect([full?.code, inWords(full?.because)]).toEqual(["guard", "The oilskin is already worn."]);
    expect(session.raise("touch:nothing")).toEqual([]);
    expect(codes(touchLocker(session, { by: "player" }, 7))).toEqual(["nobody"]);
  });

  test("that follows once follows once in all sessions, for each seat", async () => {
    const store = memoryStore();
    const session = await openWith({ store }, wren, heron);
    session.seat(1).take("wren");
    session.seat(2).take("heron");
    const emitted: string[] = [];
    session.on("change", ({ kind }) => emitted.push(kind));
    expect(codes(session.raise("arrive:post-office"))).toEqual(["done"]);
    // The count is emitted last, and it alone shows an autosave that there is something to store.
    expect(emitted.at(-1)).toBe("cue");
    expect(session.seat(1).character?.bag).toEqual({ letters: [1] });
    await session.close();
    const again = await openSession({ catalog: demo, store });
    expect(codes(again.raise("arrive:post-office"))).toEqual(["spent"]);
    expect(codes(again.raise("arrive:post-office", {}, { seat: 2 }))).toEqual(["done"]);
  });

  test("without an id that follows once does so in each session anew", async () => {
    const { catalog } = readCatalog(
      smallSource({
        slots: { hat: { kind: "gear" } },
        parts: { cap: part("hat") },
        cues: [{ on: "find", do: [{ give: "cap" }], times: 1 }],
      }),
    );
    if (catalog === undefined) throw new Error("The catalog cannot be read");
    const store = memoryStore();
    const open = () => openSession({ catalog, store });
    const session = await open();
    session.add(createCharacter(catalog, { body: "plain", id: "one" }));
    session.seat(1).take("one");
    expect(codes([...session.raise("find"), ...session.raise("find")])).toEqual(["done", "spent"]);
    await session.close();
    expect(codes((await open()).raise("find"))).toEqual(["done"]);
  });

  test("may raise another, whose outcome follows", async () => {
    const { session } = await clocked({ ...wren, loadout: { "hand-left": "whistle" } });
    const outcomes = session.raise("use:whistle");
    expect(outcomes.map(({ cue, ok }) => [cue.on, ok])).toEqual([
      ["use:whistle", true],
      ["ferry-comes", true],
    ]);
    expect(outcomes[1]?.displaced.map((each) => each.part)).toEqual(["whistle"]);
  });

  test("passes control to another and back, each time after the grace of arrival; who is who stays with the seat", async () => {
    const { session, clock } = await clocked(wren, heron);
    session.join("keys");
    session.enterScene();
    clock.now += 1;
    expect(codes(session.raise("touch:courier", { by: "player", with: "heron" }))).toEqual(["grace"]);
    clock.now += 1;
    expect(codes(session.raise("touch:courier", { by: "player", with: "heron" }))).toEqual(["done"]);
    expect([session.seat(1).character?.id, session.seat(1).device]).toEqual(["heron", "keys"]);
    session.seat(2).take("wren");
    session.raise("touch:courier", { by: "player", with: "wren" });
    expect([session.seat(1).character?.id, session.seat(2).character?.id]).toEqual(["wren", "heron"]);
    expect(codes(session.raise("touch:courier", { by: "player", with: "nobody" }))).toEqual(["refused"]);
  });

  test("grows up, shows a form and leaves it to the signals again; a refusal changes nothing and says why", async () => {
    const { session } = await clocked(tern);
    expect(codes(session.raise("year-passes"))).toEqual(["done"]);
    expect(session.seat(1).character?.body).toBe("reed");
    session.raise("dusk");
    expect(session.seat(1).look?.form).toBe("lamplit");
    session.raise("dawn");
    expect(session.seat(1).look?.form).toBeUndefined();
    const before = session.seat(1).character;
    const grown = await clocked(wren);
    const [refused] = grown.session.raise("year-passes");
    expect([refused?.code, inWords(refused?.because)]).toEqual(["refused", 'Body "reed" does not grow into another.']);
    expect([session.seat(1).character, grown.session.seat(1).character]).toEqual([before, wren]);
  });

  test("that a listener breaks off keeps nobody from hearing of looks after it", async () => {
    const { session } = await clocked(wren);
    const received: (string | undefined)[] = [];
    session.on("look", ({ look }) => received.push(look?.form));
    const stop = session.on("character", () => {
      throw new Error("A listener failed");
    });
    expect(() => touchLocker(session)).toThrow("A listener failed");
    expect(session.seat(1).character?.loadout).toHaveProperty("coat", "oilskin");
    stop();
    session.signal({ "in-water": true });
    expect(received).toEqual([undefined, "wading"]);
  });

  test("does to a character whatever it says, all of it or nothing", async () => {
    const world = {
      slots: { hat: { kind: "gear" }, coat: { kind: "gear" } },
      parts: { cap: part("hat"), hood: part("hat"), cloak: part("coat") },
      ramps: { red: ["#ff0000"], blue: ["#0000ff"] },
      channels: { dye: { ramps: ["red", "blue"], default: "red", key: ["#808080"] } },
      bodies: { plain: { rig: "rig", growsInto: "grown", stats: { luck: 1 } }, grown: { rig: "rig" } },
      stats: { luck: {} },
      outfits: { all: { parts: ["hood", "cloak"] } },
    };
    const raised = async (...cues: readonly object[]) => {
      const { catalog, problems } = readCatalog(
        smallSource({ ...world, cues: cues.map((cue) => ({ on: "word", ...cue })) }),
      );
      expect(problems.filter(({ severity }) => severity === "error")).toEqual([]);
      if (catalog === undefined) throw new Error("The catalog cannot be read");
      const session = await openSession({ catalog, store: memoryStore() });
      session.add({ ...createCharacter(catalog, { body: "plain", id: "one" }), loadout: { hat: "cap" } });
      session.seat(1).take("one");
      return { outcomes: session.raise("word", { how: 2 }), one: session.seat(1).character };
    };
    const done: readonly (readonly [object, Partial<Character>])[] = [
      [{ wear: "cloak" }, { loadout: { hat: "cap", coat: "cloak" } }],
      [
        { wear: "hood", in: "hat" },
        { loadout: { hat: "hood" }, bag: { cap: [1] } },
      ],
      [{ remove: "hat" }, { loadout: {}, bag: { cap: [1] } }],
      [{ dress: "all" }, { loadout: { hat: "hood", coat: "cloak" }, bag: { cap: [1] } }],
      [{ paint: "dye", ramp: "blue" }, { colors: { dye: "blue" } }],
      [{ body: "grown" }, { body: "grown" }],
      [{ grow: true }, { body: "grown" }],
      [{ fact: "trade", value: "pilot" }, { facts: { trade: "pilot" } }],
      [{ give: "hood", count: 2 }, { bag: { hood: [1, 1] } }],
    ];
    for (const [action, wanted] of done) {
      const { outcomes, one } = await raised({ do: [action] });
      expect([codes(outcomes), one]).toMatchObject([["done"], wanted]);
    }
    const half = await raised({ do: [{ remove: "hat" }, { body: "plain" }, { grow: true }, { grow: true }] });
    expect([codes(half.outcomes), half.one?.loadout]).toEqual([["refused"], { hat: "cap" }]);
    const guards: readonly (readonly [object, string])[] = [
      [{ if: { how: 2 }, requires: { luck: 1 }, when: "body:plain" }, ""],
      [{ if: { how: "2" } }, ""],
      [{ if: { how: 3 } }, '"how" is "2", and has to be "3".'],
      [{ if: { constructor: true } }, '"constructor" is not said, and has to be "true".'],
      [{ requires: { luck: 2 } }, "It needs 2 luck, and there is 1."],
      [{ requires: { luck: 2 }, message: "Not today." }, "Not today."],
      [{ when: { not: "part:cap" } }, "What it asks of the character does not hold."],
    ];
    for (const [guard, because] of guards) {
      const { outcomes, one } = await raised({ ...guard, do: [{ remove: "hat" }] });
      expect([inWords(outcomes[0]?.because), one?.loadout]).toEqual([because, because === "" ? {} : { hat: "cap" }]);
    }
  });

  test("that waits says so where no time passes", async () => {
    const session = await openWith({}, wren, heron);
    session.seat(1).take("wren");
    touchLocker(session);
    session.enterScene();
    expect(inWords(touchLocker(session)[0]?.because)).toBe(
      'It was followed 0 seconds ago, and rests for 1. No time passes here: open the session with a clock, as "now".',
    );
    expect(inWords(session.raise("touch:courier", { by: "player", with: "heron" })[0]?.because)).toMatch(
      /^It is only 0 .* "now"\.$/,
    );
  });

  test("that gives a great many gives them at once, and no more than a bag can hold", async () => {
    const catalog = smallCatalog({
      slots: { hat: { kind: "gear" }, purse: { kind: "gear" } },
      parts: { cap: part("hat"), coin: part("purse", { stack: 1_000_000 }) },
      cues: [
        { on: "pay", do: [{ give: "coin", count: 1_000_000 }] },
        { on: "flood", do: [{ give: "cap", count: 1_000_000 }] },
        { on: "drip", do: [{ give: "cap", count: 1_000 }] },
      ],
    });
    const store = memoryStore();
    const session = await openSession({ catalog, store });
    session.add(createCharacter(catalog, { body: "plain", id: "one" }));
    session.seat(1).take("one");
    session.raise("pay");
    session.raise("pay");
    expect(codes(session.raise("flood"))).toEqual(["refused"]);
    session.raise("drip");
    expect(codes(session.raise("drip"))).toEqual(["refused"]);
    const [held] = session.characters;
    expect([held?.bag["coin"], held?.bag["cap"]?.length]).toEqual([[1_000_000, 1_000_000], 1_000]);
    await session.close();
    expect((await openSession({ catalog, store })).characters).toEqual([held]);
  });

  test("that gives a part that nobody owned makes it owned: worn at once, and without a finding from then on", async () => {
    const catalog = smallCatalog({
      slots: { hat: { kind: "gear" } },
      parts: { crown: part("hat", { price: 30, access: "listed" }), cap: part("hat", { access: "listed" }) },
      cues: [
        { on: "crowned", do: [{ give: "crown" }, { wear: "crown" }] },
        { on: "capped", do: [{ wear: "cap" }] },
      ],
    });
    const session = await openSession({ catalog, store: memoryStore(), context: { holdings: {}, wardrobe: "bag" } });
    session.add(createCharacter(catalog, { body: "plain", id: "one" }));
    session.seat(1).take("one");
    const [crowned] = session.raise("crowned");
    expect([crowned?.ok, crowned?.given]).toEqual([true, ["crown"]]);
    expect([session.seat(1).character?.loadout, session.seat(1).problems]).toEqual([{ hat: "crown" }, []]);
    session.edit("one", { remove: "hat" });
    expect(session.edit("one", { wear: "crown" }).ok).toBe(true);
    // What is not given stays what it was.
    expect(codes(session.raise("capped"))).toEqual(["refused"]);
  });

  test("that gives fills the bag no further than it goes, and what it undresses goes there", async () => {
    const { catalog } = readCatalog(
      smallSource({
        slots: { coat: { kind: "gear" }, hat: { kind: "gear" }, face: appearance },
        parts: { cloak: part("coat"), hood: part("hat"), coin: part("hat", { stack: 3 }) },
        outfits: { all: { parts: ["cloak", "hood"] } },
        cues: [
          { on: "pay", do: [{ give: "coin", count: 4 }] },
          { on: "rest", do: [{ undress: "all" }] },
        ],
      }),
    );
    if (catalog === undefined) throw new Error("The catalog cannot be read");
    const session = await openSession({ catalog, store: memoryStore(), context: { bagPlaces: 3 } });
    session.add({ ...createCharacter(catalog, { body: "plain", id: "one" }), loadout: { coat: "cloak" } });
    session.seat(1).take("one");
    expect(codes(session.raise("rest"))).toEqual(["done"]);
    expect(codes(session.raise("pay"))).toEqual(["done"]);
    expect(session.seat(1).character).toMatchObject({ loadout: {}, bag: { cloak: [1], coin: [3, 1] } });
    const full = session.seat(1).character;
    expect(session.raise("pay").map(({ code, problems }) => [code, problems[0]?.code])).toEqual([
      ["refused", "bag-full"],
    ]);
    expect(session.seat(1).character).toBe(full);
  });

  test("that comes back to its word is found, and no other", () => {
    const words = ["a", "b", "c", "d", "e", "f"];
    const raises = fc.array(fc.tuple(fc.constantFrom(...words), fc.constantFrom(...words)), { maxLength: 9 });
    fc.assert(
      fc.property(raises, (edges) => {
        const reached = (from: string): ReadonlySet<string> => {
          const seen = new Set([from]);
          for (const word of seen) for (const [on, raise] of edges) if (on === word) seen.add(raise);
          return seen;
        };
        const cues = edges.map(([on, raise]) => ({ on, do: [{ raise }] }));
        const ends = words.map((on) => ({ on, do: [{ fact: "over", value: "yes" }] }));
        const { problems } = readCatalog(smallSource({ cues: [...cues, ...ends] }));
        const circles = [...edges.entries()].filter(([, [on, raise]]) => reached(raise).has(on));
        expect(problems.map(({ code, place }) => `${code} ${place.pointer}`)).toEqual(
          circles.map(([at]) => `cues-in-circle /cues/${at}/do/0/raise`),
        );
      }),
      runs(200),
    );
  });

  test("that names nothing, bears another's id or raises itself is found in the catalog", () => {
    const { problems } = readCatalog(
      smallSource({
        cues: [
          { id: "one", on: "a", do: [{ dress: "x" }, { raise: "b" }] },
          { id: "one", on: "b", when: "body:x", requires: { luck: 1 }, do: [{ raise: "a" }] },
        ],
      }),
    );
    expect(problems.map(({ code, place }) => `${code} ${place.pointer}`)).toEqual([
      "unknown-outfit /cues/0/do/0/dress",
      "duplicate-cue /cues/1/id",
      "unknown-body /cues/1/when",
      "unknown-stat /cues/1/requires/luck",
      "cues-in-circle /cues/0/do/1/raise",
      "cues-in-circle /cues/1/do/0/raise",
    ]);
  });
});

describe("those who listen", () => {
  test("hear what happened in its order, whoever of them does something upon it, and of no change that is half done", async () => {
    const session = await openWith({ exclusive: true }, wren, heron);
    session.seat(1).take("wren");
    session.seat(2).take("heron");
    const received: string[] = [];
    session.on("look", ({ seat, look }) => {
      if (look?.form === "wading") session.edit("wren", { wear: "storm-hat" });
      received.push(`first gets ${seat}`);
    });
    session.on("look", ({ seat, look }) => {
      const hat = look?.layers.some(({ part: id }) => id === "storm-hat");
      received.push(`second gets ${seat} ${look?.form} ${hat ? "hat" : "bare"}`);
    });
    session.seat(1).signal({ "in-water": true });
    expect(received.filter((each) => each.startsWith("second"))).toEqual([
      "second gets 1 wading bare",
      "second gets 1 wading hat",
    ]);
    const seen: unknown[] = [];
    session.on("seat", ({ seat, after }) => {
      seen.push([session.seat(1).character?.id, session.seat(2).character?.id, seat, after?.id]);
    });
    session.raise("touch:courier", { by: "player", with: "heron" });
    expect(seen).toEqual([
      ["heron", "wren", 2, "wren"],
      ["heron", "wren", 1, "heron"],
    ]);
  });

  test("hear in which slots of a seat something else is worn, also by another who sits there now", async () => {
    const session = await openWith({}, { ...wren, loadout: { hat: "storm-hat", neck: "scarf" } }, heron);
    session.seat(1).take("wren");
    const received: unknown[] = [];
    session.on("loadout", ({ seat, loadout, slots }) => received.push([seat, slots, loadout["hat"]]));
    session.edit("wren", { paint: "accent", ramp: "teal" });
    session.edit("heron", { wear: "scarf" });
    session.edit("wren", { remove: "hat" });
    session.raise("touch:locker", { by: "player", outfit: "storm-watch" });
    session.seat(1).leave();
    session.seat(2).take("wren");
    expect(received).toEqual([
      [1, ["hat"], undefined],
      [1, expect.arrayContaining(["hat", "coat"]), "storm-hat"],
      [1, expect.arrayContaining(["hat", "coat", "neck"]), undefined],
      [2, expect.arrayContaining(["hat", "coat", "neck"]), "storm-hat"],
    ]);
  });

  test("hear of several changes as a whole", async () => {
    const session = await openWith({ exclusive: true }, wren, heron);
    session.seat(1).take("wren");
    const received: unknown[] = [];
    session.on("seat", ({ seat }) => received.push([seat, session.seat(seat).character?.id]));
    session.on("look", ({ seat, look }) => received.push([seat, look?.key === session.seat(seat).look?.key]));
    session.together(() => {
      session.seat(1).leave();
      session.seat(2).take("wren");
      session.edit("wren", { wear: "scarf" });
      session.together(() => session.seat(1).take("heron"));
      expect(received).toEqual([]);
    });
    expect(received).toEqual([
      [1, "heron"],
      [2, "wren"],
      [1, "heron"],
      [1, true],
      [2, true],
    ]);
  });

  test("let one go when the other does", async () => {
    const session = await openWith({}, wren, heron, tern);
    for (const [at, id] of ["wren", "heron", "tern"].entries()) session.seat(at + 1).take(id);
    const together = ["wren", "heron"];
    session.on("seat", ({ before, after }) => {
      if (after !== undefined || !together.includes(before?.id ?? "")) return;
      for (const other of session.seats) if (together.includes(other.character?.id ?? "")) other.leave();
    });
    session.retire("heron");
    expect(session.seats.map(({ character }) => character?.id)).toEqual(["tern"]);
  });

  test("and answer each other without end are stopped, and it is said; the session goes on", async () => {
    const session = await openWith({}, wren);
    session.seat(1).take("wren");
    const stop = session.on("character", () => {
      const isBare = session.seat(1).character?.loadout["hat"] === undefined;
      session.edit("wren", isBare ? { wear: "storm-hat" } : { remove: "hat" });
    });
    const emitted: (string | undefined)[] = [];
    session.on("look", ({ look }) => emitted.push(look?.key));
    expect(codeOf(() => session.edit("wren", { wear: "scarf" }))).toBe("endless-answers");
    stop();
    session.edit("wren", { wear: "oilskin" });
    expect(emitted.at(-1)).toBe(session.seat(1).look?.key);
  });

  test("and each answer more than they hear are stopped too", async () => {
    const catalog = smallCatalog({
      slots: { face: appearance },
      ramps: { red: ["#ff0000"], blue: ["#0000ff"] },
      channels: { dye: { ramps: ["red", "blue"], default: "red", key: ["#808080"] } },
    });
    const session = await openSession({ catalog, store: memoryStore() });
    session.add(createCharacter(catalog, { body: "plain", id: "one" }));
    const turn = () => {
      const isRed = session.characters[0]?.colors["dye"] === "red";
      session.edit("one", { paint: "dye", ramp: isRed ? "blue" : "red" });
    };
    const stops = [session.on("character", turn), session.on("change", turn)];
    expect(codeOf(turn)).toBe("endless-answers");
    for (const stop of stops) stop();
    expect(codeOf(turn)).toBe("fine");
  });

  test("receive nothing after they stopped, not even what is being emitted", async () => {
    const session = await openWith({}, wren);
    const received: string[] = [];
    session.on("seat", () => stop());
    const stop = session.on("seat", () => received.push("the one who stopped"));
    session.on("seat", () => received.push("the other"));
    session.seat(1).take("wren");
    expect(received).toEqual(["the other"]);
  });

  test("hear of a device that leaves an empty seat, and of nothing when it had none", async () => {
    const session = await openWith();
    session.join("pad-0");
    const received: unknown[] = [];
    session.on("seat", ({ seat, after }) => received.push([seat, after, session.seat(seat).device]));
    session.leave("pad-1");
    session.leave("pad-0");
    expect(received).toEqual([[1, undefined, undefined]]);
  });
});

describe("whatever happens in a session", () => {
  const seat = fc.integer({ min: 1, max: 4 });
  const who = fc.constantFrom("wren", "heron", "tern");
  const device = fc.constantFrom("keys", "pad-0", "pad-1");
  const moves = fc.array(
    fc.oneof(
      fc.record({ do: fc.constant("take" as const), seat, who }),
      fc.record({ do: fc.constant("free" as const), seat }),
      fc.record({
        do: fc.constantFrom("join" as const, "leave" as const),
        device,
      }),
      fc.record({ do: fc.constantFrom("retire" as const, "restore" as const), who }),
      fc.record({ do: fc.constant("scene" as const) }),
      fc.record({
        do: fc.constant("edit" as const),
        who,
        edit: fc.record({ wear: fc.constantFrom(...demo.parts.keys()) }),
      }),
      fc.record({
        do: fc.constant("edit" as const),
        who,
        edit: fc.record({ dress: fc.constantFrom(...demo.outfits.keys()) }),
      }),
      fc.record({
        do: fc.constant("pick" as const),
        presses: fc.array(fc.tuple(device, fc.constantFrom("act", "back", "left", "right")), { maxLength: 12 }),
      }),
      fc.record({ do: fc.constant("raise" as const), seat, who, word: fc.constantFrom(...demo.cues.keys()) }),
      fc.record({ do: fc.constant("raise" as const), seat, who, word: fc.constantFrom("touch:courier", "pass:oar") }),
      fc.record({ do: fc.constant("arrive" as const) }),
      fc.record({ do: fc.constant("wait" as const) }),
      fc.record({
        do: fc.constant("signal" as const),
        seat,
        stamina: fc.integer({ min: 0, max: 5 }),
        wet: fc.boolean(),
      }),
    ),
    { maxLength: 40, size: "max" },
  );

  test("a character sits once, the retired sit nowhere, gear is conserved, and every listener's last word is the state", async () => {
    await fc.assert(
      fc.asyncProperty(moves, fc.boolean(), fc.boolean(), async (walk, exclusive, answers) => {
        const store = memoryStore();
        const clock = { now: 0 };
        const session = await openWith(
          { store, exclusive, distinguishBy: "cloth", now: () => clock.now },
          wren,
          heron,
          tern,
        );
        if (answers) {
          session.on("seat", ({ seat: number, after }) => {
            if (number === 3 && after === undefined) codeOf(() => session.seat(3).take("tern"));
          });
          session.on("look", ({ look }) => look?.form === "wading" && session.edit("wren", { wear: "waders" }));
        }
        const areDistinct = () => {
          const sitting = session.seats.flatMap(({ character }) => character?.id ?? []);
          return new Set(sitting).size === sitting.length;
        };
        if (exclusive) session.on("seat", () => expect(areDistinct()).toBe(true));
        const seated = new Map<number, string | undefined>();
        const wrong = new Map<number, number>();
        const looks = new Map<number, string | undefined>();
        const loadouts = new Map<number, Character["loadout"]>();
        session.on("loadout", ({ seat: number, loadout }) => loadouts.set(number, loadout));
        session.on("seat", ({ seat: number, after }) => seated.set(number, after?.id));
        session.on("look", ({ seat: number, look }) => looks.set(number, look?.key));
        session.on("problems", ({ seat: number, problems }) => wrong.set(number, problems.length));
        for (const [at, id] of ["wren", "heron", "tern"].entries()) session.seat(at + 1).take(id);
        for (const move of walk) {
          const owned = session.characters.map((each) => [each.id, countGear(demo, each)] as const);
          if (move.do === "take") codeOf(() => session.seat(move.seat).take(move.who));
          else if (move.do === "free") session.seat(move.seat).leave();
          else if (move.do === "wait") clock.now += 1;
          else if (move.do === "arrive") session.enterScene();
          else if ("device" in move) session[move.do](move.device);
          else if (move.do === "edit") session.edit(move.who, move.edit);
          else if (move.do === "raise")
            session.raise(move.word, { by: "player", with: move.who, outfit: "storm-watch" }, { seat: move.seat });
          else if (move.do === "signal")
            session.seat(move.seat).signal({ stamina: move.stamina, "in-water": move.wet, flood: move.wet });
          else if (move.do === "pick") {
            const picking = pickSeats(session);
            for (const press of move.presses) picking.press(...press);
            picking.tick(1);
            picking.close();
          } else if (move.do === "scene") expect(await openSession({ catalog: demo, store })).toBe(session);
          else session[move.do](move.who);

          const now = [1, 2, 3, 4].map((number) => session.seat(number));
          const sitting = now.flatMap(({ character }) => character?.id ?? []);
          if (exclusive) expect(areDistinct()).toBe(true);
          for (const id of ids(session.retired)) expect(sitting).not.toContain(id);
          for (const { number, character, look, problems } of now) {
            expect(seated.get(number)).toBe(character?.id);
            expect(looks.get(number)).toBe(look?.key);
            expect(loadouts.get(number) ?? {}).toEqual(character?.loadout ?? {});
            expect(wrong.get(number) ?? 0).toBe(problems.length);
          }
          for (const [id, before] of owned) {
            const character = [...session.characters, ...session.retired].find((each) => each.id === id);
            const after = countGear(demo, character ?? wren);
            for (const [gear, count] of before) expect(after.get(gear) ?? 0).toBeGreaterThanOrEqual(count);
          }
        }
        await session.close();
        const again = await openSession({ catalog: demo, store, exclusive });
        expect(again).not.toBe(session);
        expect(again.characters).toEqual(session.characters);
        expect(ids(again.retired)).toEqual(ids(session.retired));
        for (const number of [1, 2, 3, 4]) expect(again.seat(number).character).toEqual(session.seat(number).character);
      }),
      runs(30),
    );
  });
});

import { setTimeout as pause } from "node:timers/promises";
import { afterEach, describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { createFromPreset, memoryStore, openSession, type Session } from "zealous-mantle";
import { syncTabs } from "zealous-mantle/browser";
import { demo } from "../../demo-catalog.ts";
import { runs } from "../../runs.ts";

const crew = ["first-watch", "new-boots", "lamp-child"];
const stops: (() => void)[] = [];
afterEach(() => {
  for (const stop of stops.splice(0)) stop();
});

let games = 0;

/** The same game, opened on several pages: each with the same three characters, the first in seat 1. */
async function openPages(count: number, exclusive = false): Promise<Session[]> {
  games += 1;
  const pages: Session[] = [];
  for (let page = 0; page < count; page += 1) {
    const session = await openSession({ catalog: demo, store: memoryStore(), exclusive });
    for (const id of crew) session.add(createFromPreset(demo, id, { id, name: id }));
    session.seat(1).take("first-watch");
    stops.push(syncTabs(session, `game ${games}`));
    pages.push(session);
  }
  return pages;
}

const nameOf = (session: Session | undefined, id: string) =>
  [...(session?.characters ?? []), ...(session?.retired ?? [])].find((each) => each.id === id)?.name;

/** Everything the pages of a game agree about. */
const stateOf = (session: Session) => ({
  characters: [...session.characters, ...session.retired],
  retired: session.retired.map(({ id }) => id),
  followed: [...session.cueCounts].sort(),
  seats: session.seats.map(({ number, character }) => [number, character?.id]),
});

/** Delivers everything that was sent, however slow the machine is, and expects the pages to agree. */
async function agree(pages: readonly Session[]): Promise<void> {
  const differ = () => new Set(pages.map((page) => JSON.stringify(stateOf(page)))).size > 1;
  await pause(30);
  for (let tries = 0; tries < 500 && differ(); tries += 1) await pause(20);
  const [first, ...others] = pages.map(stateOf);
  for (const other of others) expect(other).toEqual(first);
}

describe("pages of one game", () => {
  test("agree after a change, and after two changes of the same thing at once", async () => {
    const pages = await openPages(2);
    const [here, there] = pages;
    here?.edit("new-boots", { rename: "Tern" });
    await agree(pages);
    expect(nameOf(there, "new-boots")).toBe("Tern");
    here?.edit("new-boots", { rename: "Rail" });
    there?.edit("new-boots", { rename: "Knot" });
    await agree(pages);
    expect(["Rail", "Knot"]).toContain(nameOf(here, "new-boots"));
  });

  test("agree though the clock of the machine is set back while they are open", async () => {
    const pages = await openPages(2);
    const { now } = Date;
    Date.now = () => now() - 3_600_000;
    try {
      pages[0]?.edit("new-boots", { rename: "Tern" });
      await agree(pages);
    } finally {
      Date.now = now;
    }
    expect(nameOf(pages[1], "new-boots")).toBe("Tern");
  });

  test("keep what both change at once, when it is of different characters", async () => {
    const pages = await openPages(2);
    const [here, there] = pages;
    here?.edit("new-boots", { rename: "Rail" });
    there?.edit("lamp-child", { rename: "Knot" });
    here?.duplicate("first-watch");
    there?.duplicate("first-watch");
    await agree(pages);
    for (const page of pages) {
      expect(nameOf(page, "new-boots")).toBe("Rail");
      expect(nameOf(page, "lamp-child")).toBe("Knot");
    }
  });

  test("lose whoever is removed on one of them, unless another changed them later", async () => {
    const pages = await openPages(2);
    const [here, there] = pages;
    here?.remove("first-watch");
    await agree(pages);
    expect([there?.characters.map(({ id }) => id), there?.seat(1).character]).toEqual([crew.slice(1), undefined]);
    there?.edit("new-boots", { rename: "Tern" });
    there?.remove("lamp-child");
    here?.remove("new-boots");
    await agree(pages);
    expect(nameOf(here, "lamp-child")).toBeUndefined();
    here?.add(createFromPreset(demo, "first-watch", { id: "first-watch", name: "Rail" }));
    await agree(pages);
    expect(nameOf(there, "first-watch")).toBe("Rail");
  });

  test("leave a seat empty for whom one retires while the other seats them", async () => {
    const pages = await openPages(2);
    const [one, other] = pages;
    one?.retire("new-boots");
    other?.seat(2).take("new-boots");
    other?.seat(3).take("lamp-child");
    await agree(pages);
    for (const page of pages) {
      expect(page?.retired.map(({ id }) => id)).toEqual(["new-boots"]);
      expect(page?.seat(2).character).toBeUndefined();
      expect(page?.seat(3).character?.id).toBe("lamp-child");
    }
  });

  test("seat nobody again who lost their seat to another page and is restored", async () => {
    const pages = await openPages(2, true);
    const [one, other] = pages;
    one?.retire("new-boots");
    other?.seat(1).take("new-boots");
    await agree(pages);
    other?.restore("new-boots");
    await agree(pages);
    expect(pages.map((page) => page.seat(1).character)).toEqual([undefined, undefined]);
  });

  test("opened later know what was stored, and receive nothing older", async () => {
    const [here, there] = await openPages(2);
    here?.edit("new-boots", { rename: "Tern" });
    await pause(20);
    // Stored meanwhile by a page that shares nothing.
    const store = memoryStore();
    const silent = await openSession({ catalog: demo, store });
    for (const character of there?.characters ?? []) silent.add(character);
    silent.edit("new-boots", { rename: "Rail" });
    await silent.close();
    const later = await openSession({ catalog: demo, store });
    stops.push(syncTabs(later, `game ${games}`));
    here?.edit("lamp-child", { rename: "Knot" });
    await pause(100);
    expect([nameOf(later, "new-boots"), nameOf(later, "lamp-child")]).toEqual(["Rail", "Knot"]);
  });

  test("follow once on all of them what is to be followed once", async () => {
    const pages = await openPages(2);
    const [here, there] = pages;
    expect(here?.raise("arrive:post-office").map(({ ok }) => ok)).toEqual([true]);
    await agree(pages);
    expect(there?.raise("arrive:post-office").map(({ code }) => code)).toEqual(["spent"]);
  });

  test("agree about who left a seat, and a page that reacts to what it receives is received", async () => {
    const pages = await openPages(2);
    const [here, there] = pages;
    there?.on("seat", ({ after }) => after === undefined && there.seat(1).take("lamp-child"));
    here?.seat(1).leave();
    await agree(pages);
    expect(here?.seat(1).character?.id).toBe("lamp-child");
    expect(there?.seat(1).character?.id).toBe("lamp-child");
  });

  test("say nothing to pages of another game, and pass over what they do not understand", async () => {
    const [here] = await openPages(1);
    const [other] = await openPages(1);
    const stranger = new BroadcastChannel(`zealous-mantle game ${games}`);
    stops.push(() => stranger.close());
    const shared = { mantle: "shared-state/1", catalog: demo.id, characters: [] };
    for (const odd of [
      null,
      "shared-state",
      shared,
      { ...shared, seats: { time: 1, by: 1, value: [[0, "new-boots"]] } },
      { ...shared, characters: [{ time: 1, by: 1, value: 1 }] },
    ])
      stranger.postMessage(odd);
    here?.edit("new-boots", { rename: "Rail" });
    await pause(100);
    expect(nameOf(other, "new-boots")).toBe("new-boots");
    expect(other?.seat(1).character?.id).toBe("first-watch");
  });

  test("come to agree whatever is changed on whichever page, and however much at once", async () => {
    const place = fc.nat(5);
    const change = fc.oneof(
      fc.record({ kind: fc.constantFrom("rename", "retire", "restore", "copy"), who: place }),
      fc.record({ kind: fc.constant("move"), who: place, to: place }),
      fc.record({ kind: fc.constant("raise"), who: place, to: fc.integer({ min: 1, max: 3 }) }),
      fc.record({ kind: fc.constantFrom("take", "free"), who: place, to: fc.integer({ min: 1, max: 3 }) }),
    );
    const step = fc.record({ page: fc.nat(2), change, isHeard: fc.boolean() });
    let count = 0;
    const apply = (session: Session, { kind, who, to = 1 }: { kind: string; who: number; to?: number }) => {
      const one = session.characters[who % session.characters.length];
      const aside = session.retired[who % session.retired.length];
      count += 1;
      if (kind === "restore" && aside !== undefined) session.restore(aside.id);
      if (kind === "raise") session.raise(who < 3 ? "arrive:post-office" : "find:whistle", {}, { seat: to });
      if (kind === "free") session.seat(to).leave();
      if (one === undefined) return;
      if (kind === "rename") session.edit(one.id, { rename: `Name ${count}` });
      if (kind === "retire") session.retire(one.id);
      if (kind === "copy") session.duplicate(one.id);
      if (kind === "move") session.move(one.id, to);
      const isTaken = session.seats.some(({ character }) => character?.id === one.id);
      if (kind === "take" && !isTaken) session.seat(to).take(one.id);
    };
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 2, maxLength: 14, size: "max" }), async (steps) => {
        const pages = await openPages(3, true);
        for (const { page, change, isHeard } of steps) {
          const session = pages[page];
          if (session !== undefined) apply(session, change);
          if (isHeard) await pause(2);
        }
        await agree(pages);
        for (const stop of stops.splice(0)) stop();
      }),
      runs(60),
    );
  });
});

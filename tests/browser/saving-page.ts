import { createCharacter, MantleError, memoryStore, openSession, type Session } from "zealous-mantle";
import { type AutosaveOptions, autosave, indexedStore } from "zealous-mantle/browser";
import { storeContract } from "zealous-mantle/testing";
import { smallCatalog } from "../small-catalog.ts";

/** What is found in the page. */
export interface Savings {
  /** How often the character was written, and what of it came to be stored. */
  readonly writes: number;
  readonly stored: readonly string[];
  /** What was said of the state, and of failures. */
  readonly said: readonly string[];
}

/** Changes a name a hundred times, while the store fails so often, and says what came of it. */
async function save(fails: number, end: "wait" | "hide" | "stop"): Promise<Savings> {
  const catalog = smallCatalog();
  const kept = memoryStore();
  const said: string[] = [];
  let [writes, left] = [0, fails];
  const write: typeof kept.write = async (key, ...added) => {
    writes += key === "character-one" ? 1 : 0;
    left -= 1;
    if (left >= 0) throw new Error("Disk full");
    await kept.write(key, ...added);
  };
  const session: Session = await openSession({ catalog, store: { ...kept, write } });
  const stored = new Promise<void>((done) => {
    const options: AutosaveOptions = {
      // Long, where it is not the passing of time that is to store it.
      delay: end === "wait" ? 5 : 60_000,
      onState: (isStored) => {
        said.push(isStored ? "stored" : "unsaved");
        if (isStored && session.characters[0]?.name === "Name 99") done();
      },
      onError: (error) => said.push(String(error)),
    };
    const stop = autosave(session, options);
    session.add(createCharacter(catalog, { body: "plain", id: "one" }));
    void (async () => {
      for (let each = 0; each < 100; each += 1) {
        session.edit("one", { rename: `Name ${each}` });
        // The first change is stored at once; those after it together.
        if (each % 10 === 0) await Promise.resolve();
      }
      if (end === "hide") dispatchEvent(new Event("pagehide"));
      if (end === "stop") await stop();
    })();
  });
  await stored;
  return { writes, stored: (await kept.read("character-one")).map(({ text = "" }) => text), said };
}

/** Saves by itself while another program stores the same character; returns what was reported, before and after the game decided. */
async function saveBesideAnother(): Promise<readonly (readonly string[])[]> {
  const [catalog, store] = [smallCatalog(), memoryStore()];
  // A session for each: one store object has one.
  const open = () => openSession({ catalog, store: { ...store } });
  const first = await open();
  first.add(createCharacter(catalog, { body: "plain", id: "one", name: "First" }));
  await first.flush();
  const [mine, theirs] = [await open(), await open()];
  theirs.edit("one", { rename: "Theirs" });
  await theirs.flush();
  const said: string[] = [];
  const stop = autosave(mine, {
    delay: 1,
    onState: (isStored) => said.push(isStored ? "stored" : "unsaved"),
    onError: (error) => said.push(error instanceof MantleError ? error.code : String(error)),
  });
  const pass = () => new Promise((done) => setTimeout(done, 20));
  for (const name of ["Mine", "Mine too", "Mine still"]) {
    mine.edit("one", { rename: name });
    await pass();
  }
  const before = [...said];
  await mine.flush({ overwrite: true });
  mine.edit("one", { rename: "Decided" });
  await pass();
  await stop();
  const [{ text = "" } = {}] = await store.read("character-one");
  return [before, said.slice(before.length), [String(text.includes("Decided"))]];
}

/** Holds the store of the browser to what every store has to keep; returns what is not so. */
async function checkIndexedStore(): Promise<readonly string[]> {
  const wrong: string[] = [];
  for (const [at, { name, run }] of storeContract.entries())
    await run(indexedStore(`contract-${at}`)).catch((error: unknown) => wrong.push(`${name}: ${error}`));
  return wrong;
}

/** A catalog, a store of a name, and the session in it. */
async function openPlayer(name: string) {
  const [catalog, store] = [smallCatalog(), indexedStore(name)];
  return { catalog, store, session: await openSession({ catalog, store }) };
}

/** What a call rejects with, as its code and its words; nothing when it does not. */
async function refusal(act: () => Promise<unknown>): Promise<string> {
  return act().then(
    () => "",
    (error: unknown) => (error instanceof MantleError ? `${error.code}: ${error.message}` : `raw ${error}`),
  );
}

/** Asks a browser that forbids storing, and asks again when it does not any more. */
async function askWhereForbidden(): Promise<readonly string[]> {
  const allowed = Object.getOwnPropertyDescriptor(window, "indexedDB");
  const deny = () => {
    throw new DOMException("denied by the player", "SecurityError");
  };
  Object.defineProperty(window, "indexedDB", { configurable: true, get: deny });
  const store = indexedStore("forbidden");
  const refused = [await refusal(() => store.list()), await refusal(() => store.read("wren"))];
  Reflect.deleteProperty(window, "indexedDB");
  if (allowed !== undefined) Object.defineProperty(window, "indexedDB", allowed);
  return [...refused, await refusal(() => store.write("wren", { revision: 1, text: "stored" }, []))];
}

/** Keeps a session open while another connection deletes its database, and stores again. */
async function storeAfterDeletion(): Promise<readonly string[]> {
  const { catalog, store, session } = await openPlayer("deleted");
  session.add(createCharacter(catalog, { body: "plain", id: "one", name: "First" }));
  await session.flush();
  const deleted = await new Promise<string>((done) => {
    const request = indexedDB.deleteDatabase("deleted");
    request.onsuccess = () => done("deleted");
    request.onblocked = () => done("blocked");
  });
  session.edit("one", { rename: "Second" });
  const refused = await refusal(() => session.flush());
  return [deleted, refused, ...(await store.list()).keys];
}

let player: Awaited<ReturnType<typeof openPlayer>> | undefined;

/** Begins to play, for a browser that takes what is stored away meanwhile. */
async function beginToPlay(): Promise<void> {
  player = await openPlayer("cleared");
  player.session.add(createCharacter(player.catalog, { body: "plain", id: "one" }));
  await player.session.flush();
}

/** Changes something and stores it; returns what the flush was refused with, and what is stored. */
async function playOn(name: string): Promise<readonly string[]> {
  player?.session.edit("one", { rename: name });
  const refused = await refusal(async () => player?.session.flush());
  return [refused, ...((await player?.store.read("character-one")) ?? []).map(({ text = "" }) => text)];
}

/** Puts what another program would put under the keys of a store, and plays. */
async function playBesideForeign(): Promise<unknown> {
  const { catalog, store, session } = await openPlayer("foreign");
  session.add(createCharacter(catalog, { body: "plain", id: "one", name: "Mine" }));
  await session.close();
  const put = (key: IDBValidKey, value: unknown) =>
    new Promise((done) => {
      const opening = indexedDB.open("foreign");
      opening.onsuccess = () => {
        const writing = opening.result.transaction("saves", "readwrite");
        writing.objectStore("saves").put(value, key);
        writing.oncomplete = () => done(opening.result.close());
      };
    });
  for (const [key, value] of [["character-two", 7] as const, [42, "odd key"] as const]) await put(key, value);
  const again = await openSession({ catalog, store });
  const problems = again.problems.map(({ code, place }) => `${code} ${place.file}`);
  again.add(createCharacter(catalog, { body: "plain", id: "two" }));
  await again.flush();
  const held = (await store.read("character-two")).map((generation) => generation.text ?? "unreadable");
  return { names: again.characters.map(({ id }) => id), problems, held: held.map((text) => text.slice(0, 10)) };
}

Object.assign(window, {
  save,
  checkIndexedStore,
  askWhereForbidden,
  storeAfterDeletion,
  beginToPlay,
  playOn,
  playBesideForeign,
  saveBesideAnother,
});

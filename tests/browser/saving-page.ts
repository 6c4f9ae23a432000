import { createCharacter, memoryStore, openSession, type Session } from "zealous-mantle";
import { indexedStore, type KeepSavedOptions, keepSaved } from "zealous-mantle/browser";
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
  const write: typeof kept.write = async (key, generations) => {
    writes += key === "character-one" ? 1 : 0;
    left -= 1;
    if (left >= 0) throw new Error("Disk full");
    await kept.write(key, generations);
  };
  const session: Session = await openSession({ catalog, store: { ...kept, write } });
  const stored = new Promise<void>((done) => {
    const options: KeepSavedOptions = {
      // Long, where it is not the passing of time that is to store it.
      delay: end === "wait" ? 5 : 60_000,
      onState: (isStored) => {
        said.push(isStored ? "stored" : "unsaved");
        if (isStored && session.characters[0]?.name === "Name 99") done();
      },
      onError: (error) => said.push(String(error)),
    };
    const stop = keepSaved(session, options);
    session.keep(createCharacter(catalog, { body: "plain", id: "one" }));
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
  return { writes, stored: await kept.read("character-one"), said };
}

/** Holds the store of the browser to what every store has to keep; returns what is not so. */
async function checkIndexedStore(): Promise<readonly string[]> {
  const wrong: string[] = [];
  for (const [at, { name, run }] of storeContract.entries())
    await run(indexedStore(`contract-${at}`)).catch((error: unknown) => wrong.push(`${name}: ${error}`));
  return wrong;
}

Object.assign(window, { save, checkIndexedStore });

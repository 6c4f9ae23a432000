import { expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  type Character,
  createCharacter,
  type Json,
  MantleError,
  memoryStore,
  readSave,
  removeSave,
  type Store,
  writeSave,
} from "zealous-mantle";
import { mergeSaved, type SaveConflict, type SyncedStore, syncedStore } from "zealous-mantle/sync";
import { isLong, runs } from "../../runs.ts";
import { appearance, gear, part, smallCatalog } from "../../small-catalog.ts";
import { type Failure, fragile } from "./fragile-store.ts";

const parts = ["flare", "whistle"] as const;
const catalog = smallCatalog({
  slots: { hair: appearance, hand: gear },
  parts: { flare: part("hand", { stack: 99 }), whistle: part("hand", { stack: 99 }) },
});
const wren = createCharacter(catalog, { body: "plain", name: "Wren", id: "wren" });
const key = "character-wren";

/** The programs, by the device whose store they have: the last two are pages of one browser. */
const devices = [0, 1, 2, 2];

const act = fc.oneof(
  {
    weight: 6,
    arbitrary: fc.record({
      does: fc.constant("gain" as const),
      program: fc.nat(3),
      part: fc.constantFrom(...parts),
      /** The program ends at this call of a store, before it is done or after. */
      kill: fc.option(fc.nat(12), { freq: 3 }),
      isDone: fc.boolean(),
      isSent: fc.boolean(),
    }),
  },
  { weight: 1, arbitrary: fc.record({ does: fc.constant("remove" as const), program: fc.nat(3) }) },
  {
    weight: 2,
    arbitrary: fc.record({
      does: fc.constant("sync" as const),
      program: fc.nat(3),
      kill: fc.option(fc.nat(24)),
      isDone: fc.boolean(),
    }),
  },
  { weight: 2, arbitrary: fc.record({ does: fc.constant("all at once" as const), part: fc.constantFrom(...parts) }) },
  { weight: 1, arbitrary: fc.record({ does: fc.constant("choose" as const), program: fc.nat(3) }) },
  { weight: 1, arbitrary: fc.record({ does: fc.constantFrom("back up" as const, "restore" as const) }) },
);
type Act = typeof act extends fc.Arbitrary<infer Value> ? Value : never;

test("several devices, pages, kills, removals and a restored server: nothing is lost or doubled, and all agree at the end", async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(act, { minLength: 2, maxLength: isLong ? 14 : 9 }), async (acts) => {
      const world = new World();
      for (const each of acts) await world.do(each);
      await world.end();
    }),
    runs(1_800, 20_000),
  );
});

/** A server, three devices, four programs, and what is known of what they did. */
class World {
  #far = memoryStore();
  #epoch = 1;
  #backup: Store | undefined;
  readonly #nears = [memoryStore(), memoryStore(), memoryStore()];
  #gains = 0;
  /** What was stored, each by the answer it left in the character: `flare-7`. */
  readonly #stored = new Set<string>();
  /** What was in a character when it was removed. */
  readonly #removed = new Set<string>();

  /** Begins a program: each time anew, as after a kill. */
  #open(program: number, fails = () => undefined as Failure): SyncedStore {
    const far: Store = {
      read: (...args) => this.#far.read(...args),
      write: (...args) => this.#far.write(...args),
      list: async () => ({ ...(await this.#far.list()), epoch: String(this.#epoch) }),
    };
    const near = this.#nears[devices[program] as number] as Store;
    return syncedStore({ near: fragile(near, fails), far: fragile(far, fails), merge: mergeSaved(catalog) });
  }

  async do(act: Act): Promise<void> {
    switch (act.does) {
      case "gain": {
        const store = this.#open(act.program, killedAt(act.kill, act.isDone));
        await orKilled(async () => {
          await this.#gain(store, act.part);
          if (act.isSent) await store.sync();
        });
        break;
      }
      case "remove": {
        const store = this.#open(act.program);
        const { content, revision } = await readSave(store, key);
        for (const each of gainsOf(content)) this.#removed.add(each);
        await removeSave(store, key, { after: revision });
        break;
      }
      case "sync":
        await orKilled(() => this.#open(act.program, killedAt(act.kill, act.isDone)).sync());
        break;
      case "all at once": {
        const page = this.#open(3);
        const syncs = devices.map((_, program) => orOutrun(() => this.#open(program).sync()));
        await Promise.all([...syncs, orOutrun(() => this.#gain(page, act.part))]);
        break;
      }
      case "choose":
        await this.#choose(this.#open(act.program));
        break;
      case "back up":
        this.#backup = await copyOf(this.#far);
        break;
      case "restore":
        if (this.#backup === undefined) return;
        this.#far = await copyOf(this.#backup);
        this.#epoch += 1;
    }
    await this.#check();
  }

  /** Everything that is asked is chosen, until nobody has anything to send. */
  async end(): Promise<void> {
    let quiet = 0;
    for (let turn = 0; quiet < this.#nears.length && turn < 40; turn += 1) {
      const isQuiet = await this.#choose(this.#open(turn % this.#nears.length));
      quiet = isQuiet ? quiet + 1 : 0;
    }
    const stores = [...this.#nears, this.#far];
    const found = await Promise.all(stores.map(async (store) => (await readSave(store, key)).content));
    expect(found).toEqual(new Array(stores.length).fill(found[0]));
    const kept = new Set(gainsOf(found[0]));
    expect([...this.#stored].filter((each) => !kept.has(each) && !this.#removed.has(each))).toEqual([]);
    await this.#check();
  }

  async #gain(store: SyncedStore, what: string): Promise<void> {
    const { content, revision } = await readSave(store, key);
    const now = content === undefined ? wren : (content as unknown as Character);
    const gain = `${what}-${this.#gains}`;
    this.#gains += 1;
    const facts = { ...now.facts, [gain]: "found" };
    const bag = { ...now.bag, [what]: [...(now.bag[what] ?? []), 1] };
    await writeSave(store, key, "character", { ...now, facts, bag } as unknown as Json, { after: revision });
    this.#stored.add(gain);
  }

  /** A player who loses nothing: whatever either side has is kept, and a character that one side removed. Returns whether all agreed. */
  async #choose(store: SyncedStore): Promise<boolean> {
    const { conflicts, sent, received } = await store.sync();
    for (const conflict of conflicts) await store.resolve(conflict, bothOf(conflict));
    if (conflicts.length > 0) await store.sync();
    return conflicts.length + sent.length + received.length === 0;
  }

  /** Wherever a character is, it has each thing once that it says it found. */
  async #check(): Promise<void> {
    for (const store of [...this.#nears, this.#far]) {
      const { content, problems } = await readSave(store, key);
      if (problems.length > 0) throw new Error(`A save is damaged: ${JSON.stringify(problems)}`);
      if (content === undefined) continue;
      const [has, found] = [countsOf(content), countsOf(withGains(gainsOf(content)))];
      if (String(has) !== String(found)) throw new Error(`There are ${has} of what was found ${found} times`);
    }
  }
}

function bothOf({ mine, theirs }: SaveConflict): Json | undefined {
  if (mine === undefined || theirs === undefined) return mine ?? theirs;
  return withGains([...new Set([...gainsOf(mine), ...gainsOf(theirs)])]);
}

function withGains(gains: readonly string[]): Json {
  const facts = Object.fromEntries(gains.map((each) => [each, "found"]));
  const counts = parts.map((each) => [each, gains.filter((gain) => gain.startsWith(each)).length] as const);
  const bag = Object.fromEntries(counts.flatMap(([each, count]) => (count === 0 ? [] : [[each, [count]]])));
  return { ...wren, facts, bag } as unknown as Json;
}

function gainsOf(content: Json | undefined): readonly string[] {
  return content === undefined ? [] : Object.keys((content as unknown as Character).facts);
}

function countsOf(content: Json): readonly number[] {
  const { bag } = content as unknown as Character;
  return parts.map((each) => (bag[each] ?? []).reduce((sum, count) => sum + count, 0));
}

/** Ends a program at one of its calls, and fails every later one. */
function killedAt(call: number | null | undefined, isDone: boolean): () => Failure {
  let calls = 0;
  return () => {
    if (call === null || call === undefined) return undefined;
    calls += 1;
    if (calls <= call) return undefined;
    return calls === call + 1 && isDone ? "after" : "before";
  };
}

async function copyOf(store: Store): Promise<Store> {
  const copy = memoryStore();
  for (const each of (await store.list()).keys) {
    const generations = (await store.read(each)).toReversed();
    const kept = generations.map(({ revision }) => revision);
    for (const { revision, text = "" } of generations) {
      const before = kept.filter((other) => other < revision);
      await copy.write(each, { revision, text }, before);
    }
  }
  return copy;
}

const orKilled = (run: () => Promise<unknown>) => orFailed(run, "no-connection");
/** Programs that exchange at the same time get in each other's way, and go on the next time. */
const orOutrun = (run: () => Promise<unknown>) => orFailed(run, "changed-elsewhere");

async function orFailed(run: () => Promise<unknown>, code: string): Promise<void> {
  await run().catch((error: unknown) => {
    if (!(error instanceof MantleError && error.code === code)) throw error;
  });
}

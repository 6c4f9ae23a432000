/** Players of a cluster, who go on whatever happens, and know what was confirmed. */
import { randomUUID } from "node:crypto";
import { setTimeout as pause } from "node:timers/promises";
import {
  type Catalog,
  type Character,
  createFromPreset,
  type Json,
  memoryStore,
  readSave,
  writeSave,
} from "zealous-mantle";
import { httpStore } from "zealous-mantle/browser";
import { mergeSaved, syncedStore } from "zealous-mantle/sync";

/** One request, as a player saw it. */
export interface Request {
  /** Seconds since the beginning. */
  readonly at: number;
  readonly milliseconds: number;
  /** Whether it was answered, and not by "later". */
  readonly isAnswered: boolean;
}

/** What a player knows to be so, and what is stored. Each pair has to be the same. */
export type Account = Readonly<Record<string, readonly [confirmed: unknown, stored: unknown]>>;

export interface ClusterPlayer {
  /** Plays until `isOver` returns true. */
  play(isOver: () => boolean): Promise<void>;
  /** Compares everything confirmed with what there is. */
  compare(): Promise<Account>;
  /** How much was confirmed. */
  readonly confirmed: number;
}

const ramps = ["indigo", "mustard", "madder", "moss"] as const;
const part = "flares";
const price = 2;
const startBalance = 100_000;
/** Milliseconds after which a request is given up, and asked again. */
const patience = 8_000;

/**
 * Signs a player on, with three characters: one is changed by edits, one is traded with, and one is changed on a device and exchanged.
 *
 * @param seconds - since the beginning.
 */
export async function openPlayer(
  url: string,
  catalog: Catalog,
  seconds: () => number,
  note: (request: Request) => void,
): Promise<ClusterPlayer> {
  let token = "";
  const once = async (
    method: string,
    path: string,
    body?: object,
  ): Promise<{ status: number; body: Answer } | undefined> => {
    const at = seconds();
    const answered = (isAnswered: boolean) => note({ at, milliseconds: (seconds() - at) * 1_000, isAnswered });
    try {
      const response = await fetch(url + path, {
        method,
        headers: { authorization: `Bearer ${token}`, ...(body && { "content-type": "application/json" }) },
        signal: AbortSignal.timeout(patience),
        ...(body && { body: JSON.stringify(body) }),
      });
      const text = await response.text();
      answered(response.status < 500);
      return response.status < 500 ? { status: response.status, body: JSON.parse(text) } : undefined;
    } catch {
      answered(false);
      return undefined;
    }
  };
  /** Asks until there is an answer: whatever is asked has a name or a revision, so that it is done once. */
  const ask = async (method: string, path: string, body?: object) => {
    for (;;) {
      const answer = await once(method, path, body);
      if (answer !== undefined) return answer;
      await pause(100 + Math.random() * 100);
    }
  };
  token = (await ask("POST", "/players")).body.token ?? "";

  const far = httpStore({ url, token, timeout: patience });
  const device = syncedStore({ near: memoryStore(), far, merge: mergeSaved(catalog) });
  const courier = (id: string) => createFromPreset(catalog, "first-watch", { id, name: `Courier ${id}` });
  for (const id of ["wren", "heron", "owl"]) await store(device, courier(id));
  await untilDone(() => device.sync());

  let confirmed = 0;
  let bought = 0;
  let color = await colorOf("wren");
  let owlColor = color;
  async function colorOf(id: string): Promise<string> {
    return (await ask("GET", `/characters/${id}`)).body.character?.colors["oilcloth"] ?? "";
  }
  const revisionOf = async (id: string) => (await ask("GET", `/characters/${id}`)).body.revision ?? 0;
  const acts: readonly (() => Promise<void>)[] = [
    async () => {
      const ramp = ramps[Math.floor(Math.random() * ramps.length)] ?? "moss";
      const revision = await revisionOf("wren");
      const { status } = await ask("POST", "/characters/wren/edits", {
        revision,
        edits: [{ paint: "oilcloth", ramp }],
      });
      // An answer that was lost is one that the next shows to be done.
      color = status === 200 ? ramp : await colorOf("wren");
    },
    async () => {
      const { status } = await ask("POST", "/purchases", { request: randomUUID(), character: "wren", part });
      if (status === 200) bought += 1;
    },
    async () => {
      await ask("POST", "/trades", { request: randomUUID(), from: "wren", to: "heron", part, count: 1 });
    },
    async () => {
      const oilcloth = ramps[Math.floor(Math.random() * ramps.length)] ?? "moss";
      const { content } = await readSave(device, "character-owl", "character");
      const owl = content as unknown as Character;
      await store(device, { ...owl, colors: { ...owl.colors, oilcloth } });
      await untilDone(() => device.sync());
      owlColor = oilcloth;
    },
  ];
  return {
    get confirmed() {
      return confirmed;
    },
    async play(isOver) {
      while (!isOver()) {
        await acts[Math.floor(Math.random() * acts.length)]?.();
        confirmed += 1;
        await pause(Math.random() * 60);
      }
    },
    async compare() {
      const { balance, counts } = (await ask("GET", "/account")).body;
      const carried = await Promise.all(
        ["wren", "heron"].map(async (id) => (await ask("GET", `/characters/${id}`)).body.character?.bag[part] ?? []),
      );
      const things = carried.flat().reduce((sum, count) => sum + count, 0);
      return {
        balance: [startBalance - price * bought, balance],
        bought: [bought, counts?.[part] ?? 0],
        "things carried": [bought, things],
        "color of an edit": [color, await colorOf("wren")],
        "color of a device": [owlColor, await colorOf("owl")],
      };
    },
  };
}

/** What the routes that are asked answer with. */
interface Answer {
  readonly token?: string;
  readonly revision?: number;
  readonly character?: Character;
  readonly balance?: number;
  readonly counts?: Readonly<Record<string, number>>;
}

function store(device: Parameters<typeof writeSave>[0], character: Character): Promise<number> {
  return writeSave(device, `character-${character.id}`, "character", { ...character } as unknown as Json);
}

/** Exchanges until it is done: what fails is tried again, and nothing is lost by it. */
async function untilDone(act: () => Promise<unknown>): Promise<void> {
  for (let tries = 0; ; tries += 1) {
    try {
      await act();
      return;
    } catch (error) {
      if (tries > 200) throw error;
      await pause(100 + Math.random() * 100);
    }
  }
}

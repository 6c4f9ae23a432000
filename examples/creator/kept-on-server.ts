import { type Holdings, MantleError, openSession, type Session } from "zealous-mantle";
import { autosync, httpStore, indexedStore, type SyncState, subscribe, syncTabs } from "zealous-mantle/browser";
import { mergeSaved, type SaveConflict, syncedStore } from "zealous-mantle/sync";
import { make } from "../shared/dom.ts";
import { inLanguage } from "../shared/language.ts";
import { catalog } from "../shared/saltmarsh.ts";
import { chooseBetween } from "./choose-between.ts";

/** A session whose characters are on a server as well, and what the server says the player owns. */
export interface Kept {
  readonly session: Session;
  readonly holdings: Holdings;
}

const states = {
  agreed: { en: "In the ledger of the post office", de: "Im Kontorbuch des Postamts" },
  sending: { en: "On its way to the post office …", de: "Unterwegs zum Postamt …" },
  offline: {
    en: "Kept on this device until the post office answers",
    de: "Auf diesem Gerät verwahrt, bis das Postamt antwortet",
  },
  undecided: { en: "Changed elsewhere as well: you decide", de: "Auch anderswo geändert: du entscheidest" },
  "signed-out": { en: "The post office does not know you any more", de: "Das Postamt kennt dich nicht mehr" },
};

/**
 * Opens the session whose characters a server keeps, too. Everything is stored on this device first; so it works without the server, and is
 * sent when that answers.
 */
export async function openKept(url: string): Promise<Kept> {
  const name = `saltmarsh at ${url}`;
  const token = () => tokenFor(url);
  const near = indexedStore(name);
  // Who sits where is each device's own.
  const shares = (key: string) => key.startsWith("character-");
  const store = syncedStore({ near, far: httpStore({ url, token }), shares, merge: mergeSaved(catalog) });
  // Whom another device made is there from the beginning, where the server answers.
  await store.sync().catch(() => undefined);
  const session = await openSession({ catalog, store, conflicts: "overwrite" });
  syncTabs(session, name);
  const holdings = await holdingsFrom(url);

  const strip = make("p", { className: "kept", role: "status" });
  const show = (state: SyncState) => {
    strip.textContent = inLanguage(states[state]);
    strip.dataset["state"] = state;
  };
  const waiting: SaveConflict[] = [];
  let isAsking = false;
  const ask = async () => {
    if (isAsking) return;
    isAsking = true;
    for (let conflict = waiting.shift(); conflict !== undefined; conflict = waiting.shift()) {
      const chosen = await chooseBetween(conflict, holdings);
      if (chosen === undefined) continue;
      await store.resolve(conflict, { ...chosen }).catch(onlyConflict);
    }
    isAsking = false;
  };
  store.on("conflict", (conflict) => {
    waiting.push(conflict);
    void ask();
  });
  store.on("refused", ({ error }) => {
    strip.textContent = inLanguage({
      en: "The post office does not take this. It is kept on this device.",
      de: "Das Postamt nimmt das nicht an. Es bleibt auf diesem Gerät.",
    });
    strip.dataset["state"] = "refused";
    strip.title = error.message;
  });
  const [first] = session.characters;
  if (session.seat(1).character === undefined && first !== undefined) session.seat(1).take(first.id);
  autosync(session, store, { onState: show, listen: subscribe({ url, token }) });
  document.documentElement.append(strip);
  for (const conflict of store.conflicts) waiting.push(conflict);
  void ask();
  return { session, holdings };
}

/** What was stored again while the player chose is a conflict of its own, which the next exchange finds. */
function onlyConflict(error: unknown): void {
  if (!(error instanceof MantleError && error.code === "conflict")) throw error;
}

/** The token of this device; a new player signs on. Another device of the same player gets it in the address, behind `#token=`. */
async function tokenFor(url: string): Promise<string> {
  const place = `saltmarsh-token ${url}`;
  const given = /^#token=([\w.-]+)$/.exec(location.hash)?.[1];
  if (given !== undefined) {
    localStorage.setItem(place, given);
    history.replaceState(null, "", location.pathname + location.search);
  }
  const known = localStorage.getItem(place);
  if (known !== null) return known;
  const response = await fetch(new URL("players", url), { method: "POST" });
  const { token } = await response.json();
  localStorage.setItem(place, token);
  return token;
}

/** What the player owns, as the server said last; everything that the catalog lists while it never said anything. */
async function holdingsFrom(url: string): Promise<Holdings> {
  const place = `saltmarsh-holdings ${url}`;
  try {
    const headers = { authorization: `Bearer ${await tokenFor(url)}` };
    const response = await fetch(new URL("account", url), { headers, signal: AbortSignal.timeout(3_000) });
    const { holdings } = await response.json();
    if (response.ok) localStorage.setItem(place, JSON.stringify(holdings));
  } catch {
    // It is not there now; what it said last is used.
  }
  return JSON.parse(localStorage.getItem(place) ?? "{}");
}

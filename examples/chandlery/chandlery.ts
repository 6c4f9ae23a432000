import "zealous-mantle/elements";
import {
  type Character,
  createFromPreset,
  type Fitting,
  type Holdings,
  openFitting,
  openSession,
  purchase,
  textIn,
} from "zealous-mantle";
import { solver } from "zealous-mantle/solver";
import { byId, make } from "../shared/dom.ts";
import { inLanguage, spoken } from "../shared/language.ts";
import { catalog, inWords, loader, store } from "../shared/saltmarsh.ts";
import { paintJetty } from "../shared/scenery.ts";

/** What a player owns, and has to spend. A game keeps it where it keeps its other accounts: on its server, mostly. */
interface Purse {
  readonly holdings: Holdings;
  readonly balance: number;
}

const purseKey = "saltmarsh-purse";
const session = await openSession({ catalog, store });
const courier = session.seat(1).character ?? newcomer();
let purse = keptPurse() ?? { holdings: ownedBy(courier), balance: 60 };

/** Somebody to shop for, where nobody was made yet. */
function newcomer(): Character {
  const made = createFromPreset(catalog, "old-hand", { name: "Heron" });
  session.add(made);
  session.seat(1).take(made.id);
  return made;
}

/** What somebody wears and carries is theirs. */
function ownedBy({ loadout, bag }: Character): Holdings {
  return Object.fromEntries([...Object.values(loadout), ...Object.keys(bag)].map((part) => [part, "owned"]));
}

function keptPurse(): Purse | undefined {
  const kept = localStorage.getItem(purseKey);
  return kept === null ? undefined : (JSON.parse(kept) as Purse);
}

/** Takes over what is owned and left now: in the purse, in the session, and in the fitting that is open. */
function settle(next: Purse): void {
  purse = next;
  localStorage.setItem(purseKey, JSON.stringify(purse));
  session.update({ holdings: purse.holdings });
  byId("purse", HTMLElement).textContent = `${purse.balance} shells in the purse`;
}

/** Asks, and buys what is wanted, all of it or nothing. */
async function offer(fitting: Fitting, wanted: readonly string[]): Promise<void> {
  const character = session.seat(1).character ?? courier;
  let left = { ...purse, character };
  const refused: string[] = [];
  for (const part of wanted) {
    const bought = purchase(catalog, left.character, part, left);
    if (bought.ok) left = bought;
    else refused.push(...bought.problems.map((problem) => inWords(problem)));
  }
  const titles = wanted.map((part) => textIn(catalog.parts.get(part)?.title ?? part, "en"));
  const cost = wanted.reduce((sum, part) => sum + (catalog.parts.get(part)?.price ?? 0), 0);
  if (cost > purse.balance)
    refused.splice(0, refused.length, `It costs ${cost} shells, and there are ${purse.balance}.`);
  byId("what", HTMLElement).textContent = titles.join(", ");
  byId("price", HTMLElement).textContent =
    refused.length > 0 ? refused.join(" ") : `It costs ${cost} shells. You keep ${left.balance}.`;
  byId("buy", HTMLButtonElement).hidden = refused.length > 0;
  if (!(await agrees())) return;
  session.replace(left.character);
  settle(left);
  fitting.update({ holdings: left.holdings, gained: wanted });
  // What was just bought is put on, as one edit that can be undone; the shells stay spent.
  fitting.together(wanted.map((part) => ({ wear: part })));
  await session.flush();
}

/** Whether the player presses the button that buys. */
function agrees(): Promise<boolean> {
  const dialog = byId("offer", HTMLDialogElement);
  dialog.returnValue = "no";
  dialog.showModal();
  return new Promise((answer) => {
    dialog.addEventListener("close", () => answer(dialog.returnValue === "buy"), { once: true });
  });
}

function open(): void {
  const character = session.seat(1).character ?? courier;
  const { holdings } = purse;
  const fitting = openFitting(catalog, character, { holdings, drafts: "settle", solver });
  const screen = make("mantle-fitting", {
    ...spoken,
    loader,
    fitting,
    backdrop: paintJetty,
    heading: inLanguage({ en: "What the chandler has", de: "Was der Schiffsausrüster hat" }),
    noName: true,
  });
  screen.addEventListener("mantle-request", ({ parts }) => void offer(fitting, parts));
  screen.addEventListener("mantle-leave", () => location.assign("../"));
  screen.addEventListener("mantle-finish", async ({ character: finished }) => {
    session.replace(finished);
    await session.flush();
    location.assign("../harbor/");
  });
  document.querySelector("main")?.replaceChildren(screen);
  screen.page = "slot:hat";
}

settle(purse);
await session.flush();
open();
document.body.dataset.ready = "true";

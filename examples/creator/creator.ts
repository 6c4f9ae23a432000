import "zealous-mantle/elements";
import {
  type Character,
  createFromPreset,
  type Holdings,
  openFitting,
  openSession,
  openSteps,
  readProgress,
  type Session,
} from "zealous-mantle";
import { syncTabs } from "zealous-mantle/browser";
import { make } from "../shared/dom.ts";
import { inLanguage, spoken } from "../shared/language.ts";
import { catalog, loader, store } from "../shared/saltmarsh.ts";
import { paintJetty } from "../shared/scenery.ts";
import { openKept } from "./kept-on-server.ts";

/** Where the answers so far are kept, for a reload in the middle. */
const progressKey = "saltmarsh-steps";

/** `?server=http://…` keeps the characters there, too. */
const server = new URLSearchParams(location.search).get("server");
const { session, holdings } = server === null ? await openHere() : await openKept(server);
const others = () => session.characters.filter(({ id }) => id !== session.seat(1).character?.id);
const shared = {
  ...spoken,
  loader,
  backdrop: paintJetty,
  heading: inLanguage({ en: "The couriers’ ledger", de: "Das Kontorbuch der Boten" }),
};

async function openHere(): Promise<{ readonly session: Session; readonly holdings?: Holdings }> {
  const here = await openSession({ catalog, store, conflicts: "overwrite" });
  syncTabs(here, "saltmarsh");
  return { session: here };
}

/** What the game knows of the player. */
function rights() {
  return holdings === undefined ? {} : { holdings };
}

/** First time: one question after the other. */
function ask(): void {
  const { progress } = readProgress(JSON.parse(sessionStorage.getItem(progressKey) ?? "null"));
  const names = { taken: session.characters.map(({ name }) => name) };
  // Somebody worth looking at, of whom everything is asked all the same.
  const somebody = createFromPreset(catalog, "first-watch", { name: "" });
  const steps = openSteps(catalog, somebody, {
    names,
    ...rights(),
    ...(progress && { progress }),
  });
  steps.on("change", () => sessionStorage.setItem(progressKey, JSON.stringify(steps.progress)));
  const screen = make("mantle-steps", { ...shared, steps });
  screen.addEventListener("mantle-leave", leave);
  screen.addEventListener("mantle-finish", ({ character }) => {
    sessionStorage.removeItem(progressKey);
    openWardrobe(character);
  });
  show(screen);
}

/** Then, and every time after: everything at will. */
function openWardrobe(character: Character): void {
  const names = { taken: others().map(({ name }) => name) };
  const fitting = openFitting(catalog, character, { names, ...rights() });
  const screen = make("mantle-fitting", { ...shared, fitting });
  screen.addEventListener("mantle-leave", leave);
  screen.addEventListener("mantle-finish", ({ character: finished }) => void keep(finished));
  show(screen);
}

async function keep(character: Character): Promise<void> {
  const isKnown = session.characters.some(({ id }) => id === character.id);
  if (isKnown) session.replace(character);
  else session.add(character);
  session.seat(1).take(character.id);
  await session.flush();
  const harbor = make("a", { href: "../harbor/", className: "button main", textContent: "Go to the harbor" });
  const again = make("button", {
    type: "button",
    textContent: "Change something",
    onclick: () => openWardrobe(character),
  });
  const title = make("h1", { textContent: `${character.name} is in the ledger.` });
  show(make("div", { className: "done" }, title, harbor, " ", again));
  harbor.focus();
}

function show(screen: HTMLElement): void {
  document.body.replaceChildren(make("main", {}, screen));
}

function leave(): void {
  sessionStorage.removeItem(progressKey);
  location.assign("../");
}

document.documentElement.classList.toggle("night", new URLSearchParams(location.search).has("night"));
const seated = session.seat(1).character;
// `?new` asks for another one, beside those who are there.
if (seated === undefined || new URLSearchParams(location.search).has("new")) ask();
else openWardrobe(seated);
document.body.dataset.ready = "true";

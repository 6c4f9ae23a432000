import {
  type Character,
  createCharacter,
  createFromPreset,
  type Image,
  memoryStore,
  openFitting,
  openSession,
  openSteps,
  type PartialMessages,
  readCatalog,
  type Session,
} from "zealous-mantle";
import { type Controls, fetchCatalog, type ImageLoader, isInputCaptured, openControls } from "zealous-mantle/browser";
import { openScreen, type ScreenName, type ScreenTexts } from "zealous-mantle/elements";
import * as ar from "zealous-mantle/locales/ar";
import * as de from "zealous-mantle/locales/de";
import * as en from "zealous-mantle/locales/en";
import * as es from "zealous-mantle/locales/es";
import * as fr from "zealous-mantle/locales/fr";
import * as ja from "zealous-mantle/locales/ja";
import { createImage } from "zealous-mantle/raster";
import { signOn } from "../../examples/shared/crew.ts";

const root = "../../demo/saltmarsh/";
const files = import.meta.glob<unknown>(["../../demo/saltmarsh/**/*.json", "!../../demo/saltmarsh/**/*.marks.json"], {
  eager: true,
  import: "default",
});
const included = Object.fromEntries(Object.entries(files).map(([path, content]) => [path.slice(root.length), content]));
const { "catalog.json": main, ...parts } = included;
const read = readCatalog(main, parts);
if (read.catalog === undefined) throw new Error("The demo catalog cannot be read");
const { catalog } = read;
/** The pictures that mark points, which a server that lists no files would not tell. */
const points = [...catalog.bodies.keys()].map((body) => `art/${body}/points.png`);
const blank = createCharacter(catalog, { body: "reed" });

/** What stands around every text of the language that nobody speaks, whose words are longer than those of English by two fifths. */
const marks = ["⟦", "⟧"] as const;

function lengthen<K extends string>(texts: Readonly<Record<K, string>>): Record<K, string> {
  const accents: Readonly<Record<string, string>> = { a: "á", e: "ë", i: "ï", o: "ö", u: "û", n: "ñ", s: "š", c: "ç" };
  const longer = (word: string) =>
    word.replace(/[a-z]/g, (letter) => accents[letter] ?? letter) +
    "oïë".repeat(word.length).slice(0, Math.ceil(word.length * 0.4));
  const speak = (text: string) =>
    marks.join(
      text
        .split(/(\{[^{}]*\})/)
        .map((piece) => (piece.startsWith("{") ? piece : piece.replace(/[A-Za-z]+/g, longer)))
        .join(""),
    );
  return Object.fromEntries(Object.entries<string>(texts).map(([key, text]) => [key, speak(text)])) as Record<
    K,
    string
  >;
}

interface Spoken {
  readonly language: string;
  readonly texts: ScreenTexts;
  readonly messages: PartialMessages;
}

const languages: Readonly<Record<string, Spoken>> = {
  ...{ ar, de, es, fr, ja },
  long: { language: "en", texts: lengthen(en.texts), messages: lengthen(en.messages) },
};
let spoken: Partial<Spoken> = {};

/** Blank pictures: nobody looks at a pixel here. */
const images = new Map<string, Image>();
const loader: ImageLoader = {
  images,
  async load(...looks) {
    for (const image of looks.flatMap(({ layers }) => layers.flatMap((layer) => layer.images)))
      images.set(image, createImage(1, 1));
  },
  fetch: async () => {},
};

const carried: Character = {
  ...createFromPreset(catalog, "old-hand", { name: "Halric" }),
  bag: { "wool-cap": [1], scarf: [1], "sea-boots": [1], flares: [12, 5], mittens: [1], "watch-chain": [1] },
};

/** What the last screens have emitted, in their order. */
const emitted: (readonly [event: string, character: string])[] = [];
let endScreens = new AbortController();
let store = memoryStore();
let controls: Controls | undefined;
let isModal = false;

/** The screens, each alone on the page and as if just opened. */
const alone = {
  fitting: () => show("mantle-fitting", { heading: "A plain page", loader, fitting: openFitting(catalog, blank) }),
  /** The same with the pictures of the demo. */
  async drawn() {
    const fetched = await fetchCatalog("/saltmarsh/", { files: [...Object.keys(included), ...points] });
    show("mantle-fitting", { loader: fetched.loader, fitting: openFitting(fetched.catalog, blank) });
  },
  steps: () => show("mantle-steps", { loader, steps: openSteps(catalog, blank) }),
  async roster() {
    store = memoryStore();
    const session = await openSession({ catalog, store, exclusive: true });
    signOn(session, 4);
    show("mantle-roster", { loader, session });
  },
  /** @param pause - seconds before it starts once all are ready. */
  async seats(pause: number) {
    const distinguishBy = ["oilcloth", "cloth", "accent", "leather"];
    const session = await openSession({ catalog, store: memoryStore(), seats: 4, exclusive: true, distinguishBy });
    signOn(session, 5);
    controls = openControls();
    show("mantle-seats", { loader, session, controls, pause });
  },
  bag: openQuay,
};

/** A game in which somebody walks along a quay, and opens their bag with a key. */
function openQuay(): void {
  const quay = document.createElement("button");
  quay.id = "quay";
  quay.textContent = "The quay";
  quay.dataset["x"] = "0";
  place(quay);
  const { signal } = endScreens;
  addEventListener(
    "keydown",
    ({ key }) => {
      if (key === "ArrowRight") quay.dataset["x"] = String(Number(quay.dataset["x"]) + 1);
      if (key === "i" && !isInputCaptured()) openBag();
    },
    { signal },
  );
}

function openBag(): void {
  const fitting = openFitting(catalog, carried, { wardrobe: "bag", bagPlaces: 9 });
  const screen = Object.assign(document.createElement("mantle-equipment"), {
    modal: true,
    ariaLabel: "The bag",
    fitting,
    loader,
    ...spoken,
  });
  for (const name of ["mantle-leave", "mantle-finish"]) screen.addEventListener(name, () => screen.remove());
  document.body.append(screen);
}

function clear(): void {
  endScreens.abort();
  controls?.close();
  controls = undefined;
  endScreens = new AbortController();
  emitted.length = 0;
  document.body.style.cssText = "margin: 0; height: 100vh";
  document.documentElement.dir = "ltr";
  document.documentElement.style.cursor = "";
}

function show<K extends keyof HTMLElementTagNameMap>(name: K, properties: Partial<HTMLElementTagNameMap[K]>): void {
  const screen = Object.assign(document.createElement(name), properties, spoken, { modal: isModal });
  for (const event of ["mantle-finish", "mantle-edit", "mantle-close", "mantle-leave", "mantle-start"])
    screen.addEventListener(
      event,
      (each) => void emitted.push([event, (each as Partial<{ character: Character }>).character?.id ?? ""]),
    );
  place(screen);
}

/** Puts something on the page as all there is of it. */
function place(content: HTMLElement): void {
  const all = document.createElement("main");
  all.style.height = "100vh";
  all.append(content);
  document.body.replaceChildren(all);
}

/** Milliseconds by which the clock of the page is ahead. */
let ahead = 0;
const now = performance.now.bind(performance);
performance.now = () => now() + ahead;
const nextFrame = requestAnimationFrame.bind(globalThis);
globalThis.requestAnimationFrame = (draw) => nextFrame((time) => draw(time + ahead));

/** Lets seconds pass at once. */
function letPass(seconds: number): void {
  ahead += seconds * 1000;
}

/** Opens a screen as the only one of the page. @param modal - whether it takes the input from the page. */
async function openAlone(name: keyof typeof alone, pause = 0, modal = false, language = "en"): Promise<void> {
  clear();
  isModal = modal;
  spoken = languages[language] ?? {};
  document.documentElement.dir = language === "ar" ? "rtl" : "ltr";
  await alone[name](pause);
}

/** Opens the roster again, as after a reload: with another session, from what the last one has stored. */
async function reopenRoster(): Promise<void> {
  await document.querySelector("mantle-roster")?.session?.close();
  clear();
  show("mantle-roster", { loader, session: await openSession({ catalog, store, exclusive: true }) });
}

let game: Session | undefined;
let closing = new AbortController();

/** A game with a session in which some sit and one is asked for; what its screens came to is in `came`, in their order. */
const came: (readonly [screen: string, result: unknown])[] = [];
async function openGame(count: number): Promise<void> {
  clear();
  came.length = 0;
  store = memoryStore();
  closing = new AbortController();
  game = await openSession({ catalog, store });
  signOn(game, count);
  if (count > 0) game.seat(1).take(game.characters[0]?.id ?? "");
  const quay = Object.assign(document.createElement("button"), { id: "quay", textContent: "The quay" });
  place(quay);
  quay.focus();
}

/** Opens a screen over the game, by the one call. */
function openOver(name: ScreenName): void {
  if (game === undefined) throw new Error("There is no game");
  void openScreen(name, { session: game, loader, signal: closing.signal }).then(
    (result) => came.push([name, result === undefined ? "nothing" : "id" in result ? result.id : [...result]]),
    (error: { readonly code?: string }) => came.push([name, error.code]),
  );
}

/** Who is in the session, and who is stored, each with what they wear on their heads. */
async function whoThereIs(): Promise<unknown> {
  const hats = ({ characters, seats }: Session) => [
    characters.map(({ id, loadout }) => [id, loadout["hat"] ?? "bare"]),
    seats.map(({ character }) => character?.id),
  ];
  const stored = await openSession({ catalog, store: { ...store } });
  return { played: game && hats(game), stored: hats(stored) };
}

Object.assign(globalThis, {
  openGame,
  openOver,
  whoThereIs,
  came,
  closeFromOutside: () => closing.abort(),
  openAlone,
  reopenRoster,
  letPass,
  emitted,
});

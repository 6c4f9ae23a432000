import { drawCrop, openSession } from "zealous-mantle";
import {
  autosave,
  canvasOf,
  canvasPainter,
  isInputCaptured,
  keyBindings,
  openControls,
  syncTabs,
} from "zealous-mantle/browser";
import { signOn } from "../shared/crew.ts";
import { byId, contextOf } from "../shared/dom.ts";
import { catalog, inWords, loader, store } from "../shared/saltmarsh.ts";
import { openBag, openRoster, openWardrobe } from "./menus.ts";
import { places } from "./places.ts";
import { type Entry, playScene } from "./scene.ts";

const canvas = byId("scene", HTMLCanvasElement);
const offered = byId("act", HTMLButtonElement);
const said = byId("said", HTMLParagraphElement);
const session = await openSession({
  catalog,
  store,
  conflicts: "overwrite",
  exclusive: true,
  now: () => performance.now() / 1000,
});
autosave(session, { delay: 200, onState: (isStored) => document.body.classList.toggle("unsaved", !isStored) });
syncTabs(session, "saltmarsh");
const painter = canvasPainter(loader.images);
const controls = openControls({ keys: { "keys-arrows": keyBindings["keys-arrows"] } });

const keys: Readonly<Record<string, () => void>> = {
  e: () => void openWardrobe(session),
  i: () => void openBag(session),
  r: () => void chooseWho(),
  n: turnDay,
};
addEventListener("keydown", ({ key, repeat }) => {
  if (!isInputCaptured() && !repeat && session.seat(1).character !== undefined) keys[key]?.();
});
for (const id of ["e", "i", "r", "n"]) byId(`key-${id}`, HTMLButtonElement).onclick = () => keys[id]?.();

/** Somebody always stands in the scene: whoever was chosen, or else the first of the roster. */
async function chooseWho(): Promise<void> {
  await openRoster(session);
  const [first] = session.characters.filter(({ id }) => id !== session.seat(2).character?.id);
  if (session.seat(1).character === undefined && first !== undefined) session.seat(1).take(first.id);
  seatClerk();
  await session.flush();
}

/** Day and night: the game says which it is, and the catalog how everyone looks then. */
function turnDay(): void {
  document.body.classList.toggle("night");
  session.signal({ night: isNight() });
}

function isNight(): boolean {
  return document.body.classList.contains("night");
}

async function showWho(): Promise<void> {
  const { character, look } = session.seat(1);
  if (character === undefined || look === undefined) return;
  await loader.load(look);
  byId("who", HTMLHeadingElement).textContent = character.name;
  const portrait = contextOf(byId("portrait", HTMLCanvasElement));
  portrait.clearRect(0, 0, portrait.canvas.width, portrait.canvas.height);
  portrait.drawImage(canvasOf(drawCrop(look, loader.images, "portrait")), 0, 0);
}

function say(text: string): void {
  if (said.textContent !== text) said.textContent = text;
}

/** What is missing today, or does not go with how the game stands: the player gets a notice. */
function sayProblems(): void {
  say(inWords(session.seat(1).problems[0]));
}

function offer(text: string, act: () => void): void {
  offered.hidden = text === "";
  if (offered.textContent !== text) offered.textContent = text;
  offered.onclick = act;
}

/** Somebody works at the post office: whoever sits in seat 2. */
function seatClerk(): void {
  if (session.seat(2).character !== undefined) return;
  const others = () => session.characters.filter(({ id }) => id !== session.seat(1).character?.id);
  if (others().length === 0) signOn(session, 4);
  const clerk = others().at(-1);
  if (clerk !== undefined) session.seat(2).take(clerk.id);
}

/** Goes from place to place, for as long as the page is there. */
async function play(): Promise<void> {
  session.on("change", () => void showWho());
  session.on("look", ({ seat }) => seat === 1 && void showWho());
  session.on("problems", sayProblems);
  await showWho();
  // The address remembers the place, so that a reload comes back to it.
  const begun = location.hash.slice(1);
  let entry: Entry = { place: begun in places ? begun : "jetty" };
  for (;;) {
    history.replaceState(null, "", `#${entry.place}`);
    byId("where", HTMLParagraphElement).textContent = places[entry.place]?.title ?? "";
    sayProblems();
    if (places[entry.place]?.bystander !== undefined) seatClerk();
    session.enterScene();
    const [letters] = session.raise(`arrive:${entry.place}`);
    if (letters?.ok) say("Letters for the islands. They are in the bag.");
    entry = await playScene({ canvas, painter, controls, session, say, offer, isNight }, entry);
  }
}

/** An empty ledger: somebody signs it, or a ready-made courier goes out. */
function ask(): void {
  const [nobody, aside] = [byId("nobody", HTMLParagraphElement), byId("aside", HTMLElement)];
  [nobody.hidden, aside.hidden] = [false, true];
  places["jetty"]?.paint(contextOf(canvas), canvas.width, canvas.height, 0);
  byId("ready-made", HTMLButtonElement).onclick = async () => {
    signOn(session, 4);
    await chooseWho();
    [nobody.hidden, aside.hidden] = [true, false];
    await play();
  };
}

if (session.seat(1).character === undefined) ask();
else await play();

import "zealous-mantle/elements";
import { drawCrop, openFitting, openSession, resolveLook, titledTexts } from "zealous-mantle";
import { canvasOf, canvasPainter, isInputTaken, keepSaved, shareTabs } from "zealous-mantle/browser";
import { byId, contextOf, make } from "../shared/dom.ts";
import { catalog, loader, store } from "../shared/saltmarsh.ts";
import { paintJetty } from "../shared/scenery.ts";
import { places } from "./places.ts";
import { type Entry, playScene } from "./scene.ts";

const canvas = byId("scene", HTMLCanvasElement);
const painter = canvasPainter(loader.images);
const keys = new Set<string>();
const session = await openSession({
  catalog,
  store,
  context: { texts: titledTexts },
  now: () => performance.now() / 1000,
});
keepSaved(session, { delay: 200 });
shareTabs(session, "saltmarsh");

addEventListener("keydown", (event) => {
  if (isInputTaken()) return;
  keys.add(event.key);
  if (event.key.startsWith("Arrow")) event.preventDefault();
  if (event.key === "e") openWardrobe();
  if (event.key === "n") turnDay();
});
addEventListener("keyup", ({ key }) => keys.delete(key));
addEventListener("blur", () => keys.clear());
byId("change", HTMLButtonElement).onclick = openWardrobe;

/** Opens the wardrobe wherever one stands. Giving up changes nothing; done changes every place that shows the figure. */
function openWardrobe(): void {
  const player = session.seat(1).character;
  if (player === undefined || isInputTaken()) return;
  keys.clear();
  const fitting = openFitting(catalog, player, { texts: titledTexts });
  const screen = make("mantle-fitting", { modal: true, ariaLabel: "Wardrobe", loader, fitting, backdrop: paintJetty });
  screen.addEventListener("leave", () => screen.remove());
  screen.addEventListener("finish", ({ character }) => {
    session.keep(character);
    screen.remove();
  });
  document.body.append(screen);
}

/** Day and night: the game says a word, and the catalog what follows. */
function turnDay(): void {
  document.body.classList.toggle("night");
  session.raise(isNight() ? "dusk" : "dawn");
}

function isNight(): boolean {
  return document.body.classList.contains("night");
}

async function showWho(): Promise<void> {
  const player = session.seat(1).character;
  if (player === undefined) return;
  const look = resolveLook(catalog, player);
  await loader.load(look);
  byId("who", HTMLHeadingElement).textContent = player.name;
  const portrait = contextOf(byId("portrait", HTMLCanvasElement));
  portrait.clearRect(0, 0, portrait.canvas.width, portrait.canvas.height);
  portrait.drawImage(canvasOf(drawCrop(look, loader.images, "portrait")), 0, 0);
}

if (session.seat(1).character === undefined) {
  byId("nobody", HTMLParagraphElement).hidden = false;
  places["jetty"]?.paint(contextOf(canvas), canvas.width, canvas.height, 0);
  document.querySelector("aside")?.remove();
} else {
  session.on("change", () => void showWho());
  await showWho();
  // The address remembers the place, so that a reload comes back to it.
  let entry: Entry = {
    place: location.hash.slice(1) in places ? location.hash.slice(1) : "jetty",
    x: 160,
    facing: "south",
  };
  for (;;) {
    history.replaceState(null, "", `#${entry.place}`);
    byId("where", HTMLParagraphElement).textContent = places[entry.place]?.title ?? "";
    session.arrive();
    entry = await playScene({ canvas, painter, keys, session, say, isNight }, entry);
  }
}

function say(text: string): void {
  const line = byId("said", HTMLParagraphElement);
  if (line.textContent !== text) line.textContent = text;
}

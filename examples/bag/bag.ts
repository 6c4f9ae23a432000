import "zealous-mantle/elements";
import { type Character, createFromPreset, openFitting, resolveLook } from "zealous-mantle";
import { canvasPainter, isInputCaptured } from "zealous-mantle/browser";
import { byId, contextOf, make } from "../shared/dom.ts";
import { spoken } from "../shared/language.ts";
import { catalog, loader } from "../shared/saltmarsh.ts";
import { paintJetty } from "../shared/scenery.ts";

// A little game: somebody walks on the jetty, and can open their bag while it goes on.
let courier: Character = {
  ...createFromPreset(catalog, "old-hand", { name: "Halric" }),
  bag: { "wool-cap": [1], scarf: [1], "sea-boots": [1], flares: [12, 5], mittens: [1], "watch-chain": [1] },
};
const canvas = byId("quay", HTMLCanvasElement);
const painter = canvasPainter(loader.images);
const held = new Set<string>();
let look = resolveLook(catalog, courier);
let x = canvas.width / 2;

addEventListener("keydown", ({ key }) => {
  held.add(key);
  if (key === "i") openBag();
});
addEventListener("keyup", ({ key }) => held.delete(key));
byId("open", HTMLButtonElement).onclick = openBag;

/** The screen takes the input while it is on the page, and gives it back whatever way it goes. */
function openBag(): void {
  if (isInputCaptured()) return;
  held.clear();
  const fitting = openFitting(catalog, courier, { wardrobe: "bag", bagPlaces: 9 });
  const screen = make("mantle-equipment", {
    ...spoken,
    modal: true,
    ariaLabel: "The bag",
    fitting,
    loader,
    backdrop: paintJetty,
  });
  screen.addEventListener("mantle-leave", () => screen.remove());
  screen.addEventListener("mantle-finish", async ({ character }) => {
    courier = character;
    screen.remove();
    const changed = resolveLook(catalog, courier);
    await loader.load(changed);
    look = changed;
    byId("log", HTMLParagraphElement).textContent = `Carried now: ${Object.keys(character.bag).join(", ")}.`;
  });
  document.body.append(screen);
}

function frame(milliseconds: number): void {
  const way = Number(held.has("ArrowRight")) - Number(held.has("ArrowLeft"));
  x = Math.max(20, Math.min(canvas.width - 20, x + way));
  canvas.dataset.x = String(x);
  const time = milliseconds / 1000;
  const context = contextOf(canvas);
  paintJetty(context, canvas.width, canvas.height, time);
  const facing = way < 0 ? "west" : way > 0 ? "east" : "south";
  painter.paint(context, look, { animation: way === 0 ? "idle" : "walk", facing, time }, { x, y: canvas.height - 16 });
  requestAnimationFrame(frame);
}

await loader.load(look);
requestAnimationFrame(frame);
document.body.dataset.ready = "true";

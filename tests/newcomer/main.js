import "zealous-mantle/elements";
import { createCharacter, createFromPreset, openFigure, openFitting, openSession, openSteps } from "zealous-mantle";
import { autosave, canvasPainter, indexedStore, openControls, openLiveCatalog } from "zealous-mantle/browser";
import { solver } from "zealous-mantle/solver";
import { texts } from "./dutch.js";

const main = document.querySelector("main");
const language = new URLSearchParams(location.search).get("lang") ?? "en";
document.documentElement.lang = language;
const live = await openLiveCatalog("survey/");
const { loader } = live;
const session = await openSession({
  catalog: live.catalog,
  store: indexedStore("survey"),
  seats: 2,
  exclusive: true,
  distinguishBy: "cloth",
});
autosave(session, { delay: 100 });
live.on("change", ({ catalog }) => session.update({ catalog }));
const controls = openControls();
const words = { loader, ...(language === "nl" ? { texts } : {}) };

/** Shows a screen until one of its events; resolves with that. */
function show(tag, properties, ...ends) {
  const screen = Object.assign(document.createElement(tag), words, properties);
  main.replaceChildren(screen);
  return Promise.race(ends.map((end) => new Promise((over) => screen.addEventListener(end, over, { once: true }))));
}

/** Four questions, then everything at will. */
async function create() {
  const steps = openSteps(session.catalog, createCharacter(session.catalog, { body: "short" }));
  const asked = await show("mantle-steps", { steps, noCancel: true }, "mantle-finish");
  const fitting = openFitting(session.catalog, asked.character, { drafts: "settle", solver });
  const stop = live.on("change", ({ catalog }) => fitting.update({ catalog }));
  const made = await show("mantle-fitting", { fitting, noCancel: true }, "mantle-finish");
  stop();
  session.add(made.character);
}

/** Two of the survey walk in the cave, each moved by their player. */
function explore() {
  const canvas = Object.assign(document.createElement("canvas"), { width: 160, height: 90 });
  main.replaceChildren(canvas);
  const context = canvas.getContext("2d");
  const painter = canvasPainter(loader.images);
  const players = session.seats.map(({ number, device }, at) => {
    const place = { x: 60 + 40 * at, y: 70 };
    return { device, place, figure: openFigure({ session, seat: number, loader, at: place }) };
  });
  let before = performance.now();
  const frame = (now) => {
    const seconds = Math.min(0.1, (now - before) / 1000);
    before = now;
    context.fillStyle = "#0d0e11";
    context.fillRect(0, 0, 160, 90);
    context.fillStyle = "#39342c";
    context.fillRect(0, 70, 160, 20);
    for (const { device, place, figure } of players) {
      const way = Number(controls.isDown(device, "right")) - Number(controls.isDown(device, "left"));
      place.x = Math.max(8, Math.min(152, place.x + way * seconds * 40));
      figure.animation = way === 0 ? "idle" : "walk";
      if (way !== 0) figure.facing = way < 0 ? "west" : "east";
      figure.advance(seconds);
      figure.paint(context, painter);
    }
    canvas.dataset.places = players.map(({ place }) => Math.round(place.x)).join();
    requestAnimationFrame(frame);
  };
  requestAnimationFrame(frame);
}

if (session.characters.length === 0) {
  session.add(createFromPreset(session.catalog, "guide", { name: "Bo" }));
  await create();
}
await show("mantle-seats", { session, controls, pause: 0.2 }, "mantle-start");
await session.flush();
explore();

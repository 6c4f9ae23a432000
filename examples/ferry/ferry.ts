import "zealous-mantle/elements";
import { openSession } from "zealous-mantle";
import { autosave, openControls } from "zealous-mantle/browser";
import { signOn } from "../shared/crew.ts";
import { byId, make } from "../shared/dom.ts";
import { inLanguage, spoken } from "../shared/language.ts";
import { catalog, loader, store } from "../shared/saltmarsh.ts";
import { paintJetty } from "../shared/scenery.ts";
import { crossOver } from "./crossing.ts";

const session = await openSession({
  catalog,
  store,
  seats: 4,
  exclusive: true,
  distinguishBy: ["oilcloth", "cloth", "accent", "leather"],
  now: () => performance.now() / 1000,
});
autosave(session, { delay: 200 });
// Whoever is in the roster can row; ready-made ones fill it up.
signOn(session, 5);
const controls = openControls();

/** Whoever presses gets a seat, and chooses who they are; then all row. */
function choose(): void {
  const ashore = byId("ashore", HTMLElement);
  const screen = make("mantle-seats", {
    ...spoken,
    session,
    controls,
    loader,
    backdrop: paintJetty,
    heading: inLanguage({ en: "Who rows the ferry?", de: "Wer rudert die Fähre?" }),
  });
  screen.addEventListener("mantle-close", () => location.assign("../"));
  screen.addEventListener("mantle-start", () => {
    screen.remove();
    ashore.hidden = true;
    document.body.dataset.starts = String(Number(document.body.dataset.starts ?? 0) + 1);
    void row();
  });
  ashore.hidden = false;
  ashore.append(screen);
}

/** Rows there and back, until nobody is left in the boat. */
async function row(): Promise<void> {
  const boat = byId("boat", HTMLElement);
  boat.hidden = false;
  session.enterScene();
  await crossOver(session, controls);
  boat.hidden = true;
  choose();
}

choose();
document.body.dataset.ready = "true";

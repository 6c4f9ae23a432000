import "zealous-mantle/elements";
import { type Character, openFitting, type Session } from "zealous-mantle";
import { isInputCaptured } from "zealous-mantle/browser";
import type { EndEvents, ScreenElement } from "zealous-mantle/elements";
import { make } from "../shared/dom.ts";
import { spoken } from "../shared/language.ts";
import { catalog, loader } from "../shared/saltmarsh.ts";
import { paintJetty } from "../shared/scenery.ts";

const shared = { ...spoken, modal: true, loader, backdrop: paintJetty };

/** Opens the wardrobe wherever one stands. Giving up changes nothing; done changes every place that shows the figure. */
export async function openWardrobe(session: Session, character = session.seat(1).character): Promise<void> {
  if (character === undefined || isInputCaptured()) return;
  const fitting = openFitting(catalog, character);
  await keepFrom(session, make("mantle-fitting", { ...shared, ariaLabel: "Wardrobe", fitting }));
}

/** Opens the bag: what was found is put on here. */
export async function openBag(session: Session): Promise<void> {
  const character = session.seat(1).character;
  if (character === undefined || isInputCaptured()) return;
  const fitting = openFitting(catalog, character, { wardrobe: "bag" });
  await keepFrom(session, make("mantle-equipment", { ...shared, ariaLabel: "The bag", fitting }));
}

/** Opens the roster: who goes out today. Whoever is changed comes back to it. */
export async function openRoster(session: Session): Promise<void> {
  if (isInputCaptured()) return;
  const screen = make("mantle-roster", { ...shared, ariaLabel: "Roster", heading: "Who goes out today?", session });
  screen.addEventListener("mantle-add", () => void session.flush().then(() => location.assign("../creator/?new")));
  const toEdit = await new Promise<Character | undefined>((close) => {
    screen.addEventListener("mantle-finish", () => close(undefined));
    screen.addEventListener("mantle-close", () => close(undefined));
    screen.addEventListener("mantle-edit", ({ character }) => close(character));
    document.body.append(screen);
  });
  screen.remove();
  if (toEdit === undefined) return;
  await openWardrobe(session, toEdit);
  await openRoster(session);
}

/** Shows a screen until it is left, and keeps what it came to. */
function keepFrom(session: Session, screen: ScreenElement<EndEvents>): Promise<void> {
  return new Promise<void>((close) => {
    screen.addEventListener("mantle-leave", () => close());
    screen.addEventListener("mantle-finish", ({ character }) => {
      session.replace(character);
      close();
    });
    document.body.append(screen);
  }).then(() => screen.remove());
}

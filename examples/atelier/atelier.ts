import { type Character, createFromPreset, openFitting, openSession, openSteps } from "zealous-mantle";
import { syncTabs } from "zealous-mantle/browser";
import { CharacterEvent, type DrawCard, ShowEvent } from "zealous-mantle/elements";
import { make } from "../shared/dom.ts";
import { spoken } from "../shared/language.ts";
import { store } from "../shared/saltmarsh.ts";
import { OrbitStage } from "./orbit-stage.ts";
import { openQuay } from "./quay.ts";
import { catalog, shelf, snapshots } from "./saltmarsh-3d.ts";

const session = await openSession({ catalog, store, conflicts: "overwrite" });
syncTabs(session, "saltmarsh");

/** What cards show closely: faces and what is worn above them, and feet; of all else the whole figure. */
const near = new Set(["hair", "brows", "eyes", "marks", "beard", "hat", "neck"]);
const drawCard: DrawCard = (look, { slot, width, height }) => {
  const { frame } = look.rig;
  const figure = { x: 6, y: 4, width: frame.width - 12, height: frame.height - 4 };
  return snapshots.render(look, { width, height, window: slot !== undefined && near.has(slot) ? "portrait" : figure });
};

const heading = "The couriers’ ledger";

/** Shows a screen over a stage in three dimensions. */
function openScreen(screen: HTMLElement, finish: (character: Character) => void): void {
  const stage = new OrbitStage(shelf);
  screen.append(stage.element);
  screen.addEventListener("mantle-show", (event) => {
    if (event instanceof ShowEvent) void stage.show(event.look);
  });
  const end = (then: (character: Character) => void) => (event: Event) => {
    stage.close();
    if (event instanceof CharacterEvent) then(event.character);
  };
  screen.addEventListener(
    "mantle-leave",
    end(() => location.assign("../")),
  );
  screen.addEventListener("mantle-finish", end(finish));
  show(screen);
}

/** First time: one question after the other. */
function ask(): void {
  const steps = openSteps(catalog, createFromPreset(catalog, "first-watch", { name: "" }), {
    names: { taken: session.characters.map(({ name }) => name) },
  });
  openScreen(make("mantle-steps", { ...spoken, steps, drawCard, heading }), openWardrobe);
}

/** Then, and every time after: everything at will. */
function openWardrobe(character: Character): void {
  const taken = session.characters.filter(({ id }) => id !== character.id).map(({ name }) => name);
  const fitting = openFitting(catalog, character, { names: { taken } });
  openScreen(make("mantle-fitting", { ...spoken, fitting, drawCard, heading }), (finished) => void walk(finished));
}

async function walk(character: Character): Promise<void> {
  if (session.characters.some(({ id }) => id === character.id)) session.replace(character);
  else session.add(character);
  session.seat(1).take(character.id);
  seatFriend();
  await session.flush();
  show(openQuay(session, () => openWardrobe(character)));
}

/** Somebody of another build walks along. */
function seatFriend(): void {
  const others = session.characters.filter(({ id }) => id !== session.seat(1).character?.id);
  const friend =
    others.find(({ body }) => body === "oak") ??
    others[0] ??
    createFromPreset(catalog, "old-hand", { id: "old-hand", name: "Halric" });
  if (!session.characters.includes(friend)) session.add(friend);
  session.seat(2).take(friend.id);
}

function show(screen: HTMLElement): void {
  document.body.replaceChildren(make("main", {}, screen));
}

const seated = session.seat(1).character;
if (seated === undefined || new URLSearchParams(location.search).has("new")) ask();
else openWardrobe(seated);
document.body.dataset.ready = "true";

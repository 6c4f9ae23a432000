import {
  createCharacter,
  type Edit,
  type EditResult,
  openFitting,
  openSession,
  resolveLook,
  textIn,
} from "zealous-mantle";
import { canvasPainter } from "zealous-mantle/browser";
import { byId } from "../shared/dom.ts";
import { catalog, loader, store } from "../shared/saltmarsh.ts";
import { drawBodies, drawColors, drawOptions, drawOutfits, drawSlots, type Screen } from "./panels.ts";
import { openStage } from "./stage.ts";

const session = await openSession({ catalog, store });
const seated = session.seat(1).character;
const fitting = openFitting(catalog, seated ?? createCharacter(catalog, { body: "reed", id: crypto.randomUUID() }));

const painter = canvasPainter(loader.images);
const stage = openStage(byId("stage", HTMLCanvasElement), painter, resolveLook(catalog, fitting.character));
const name = byId("name", HTMLInputElement);
const message = byId("message", HTMLParagraphElement);

const screen: Screen = { catalog, loader, painter, slot: "hat", fitting: () => fitting, edit, choose };

function choose(slot: string): void {
  screen.slot = slot;
  void show();
}

/** Does an edit and says what came of it. */
function edit(change: Edit): void {
  const result = fitting.apply(change);
  say(result);
  void show();
}

function say(result: EditResult): void {
  message.classList.toggle("wrong", !result.ok);
  message.textContent = result.ok
    ? result.displaced.map(({ part, because }) => `${titleOf(part)} came off. ${because}`).join(" ")
    : result.problems.map(({ because, fixes }) => [because, ...fixes.map((fix) => fix.say)].join(" ")).join(" ");
}

const titleOf = (part: string) => textIn(catalog.parts.get(part)?.title ?? part);

async function show(): Promise<void> {
  const look = resolveLook(catalog, fitting.character);
  drawBodies(screen);
  drawOutfits(screen);
  drawSlots(screen);
  drawColors(screen);
  byId("undo", HTMLButtonElement).disabled = !fitting.canUndo;
  byId("redo", HTMLButtonElement).disabled = !fitting.canRedo;
  await loader.load(look);
  stage.show(look);
  await drawOptions(screen);
}

byId("turn-left", HTMLButtonElement).onclick = () => stage.turn(-1);
byId("turn-right", HTMLButtonElement).onclick = () => stage.turn(1);
byId("undo", HTMLButtonElement).onclick = () => step(fitting.undo);
byId("redo", HTMLButtonElement).onclick = () => step(fitting.redo);
byId("animation", HTMLButtonElement).onclick = ({ currentTarget }) => {
  const walking = stage.toggleWalk();
  (currentTarget as HTMLButtonElement).setAttribute("aria-pressed", String(walking));
};
function step(move: () => void): void {
  move();
  message.textContent = "";
  name.value = fitting.character.name;
  void show();
}

byId("sign", HTMLFormElement).onsubmit = async (event) => {
  event.preventDefault();
  const named = fitting.rename(name.value);
  if (!named.ok) return say(named);
  name.value = fitting.character.name;
  if (fitting.character.name === "") {
    message.classList.add("wrong");
    message.textContent = "The ledger needs a name. Write one above.";
    return name.focus();
  }
  const finished = fitting.finish();
  session.keep(finished);
  session.seat(1).take(finished.id);
  await session.flush();
  void show();
  message.classList.remove("wrong");
  message.replaceChildren(
    `${finished.name} is in the ledger. `,
    Object.assign(document.createElement("a"), { href: "../harbor/", textContent: "Go to the harbor" }),
  );
};

name.value = fitting.character.name;
await show();
document.body.dataset.ready = "true";

import "zealous-mantle/elements";
import { applyEdit, type Character, type CuePayload, resolveLook, type Session, textIn } from "zealous-mantle";
import { openInput } from "zealous-mantle/browser";
import type { Card } from "zealous-mantle/elements";
import { make } from "../shared/dom.ts";
import { catalog, inWords, loader } from "../shared/saltmarsh.ts";

/** The costumes that cues for a word hand out: which, and the payload that asks for it. */
function costumesFor(word: string): readonly { readonly outfit: string; readonly payload: CuePayload }[] {
  return (catalog.cues.get(word) ?? []).flatMap(({ payload, does }) =>
    does.flatMap((action) => ("dress" in action ? [{ outfit: action.dress, payload }] : [])),
  );
}

/** A costume on the very figure that would wear it. */
function cardOf(character: Character, outfit: string): Card {
  const texts = { id: outfit, title: textIn(catalog.outfits.get(outfit)?.title ?? outfit, "en") };
  const result = applyEdit(catalog, character, { dress: outfit });
  if (!result.ok)
    return {
      ...texts,
      note: inWords(result.problems[0]),
      state: "blocked",
      look: resolveLook(catalog, character),
    };
  const isWorn = catalog.outfits.get(outfit)?.parts.every((part) => Object.values(character.loadout).includes(part));
  const look = resolveLook(catalog, result.character);
  return isWorn
    ? { ...texts, note: "as you are", state: "chosen", look }
    : { ...texts, note: "", state: "ready", look };
}

/**
 * Opens the locker: its costumes, each on the player's figure. A screen of the game's own, made of the library's cards.
 *
 * @returns the payload that asks for what was taken; `undefined` when the locker was shut again.
 */
export function openLocker(session: Session, word: string): Promise<CuePayload | undefined> {
  const { character } = session.seat(1);
  const costumes = costumesFor(word);
  if (character === undefined) return Promise.resolve(undefined);
  const cards = make("mantle-cards", {
    count: costumes.length,
    card: (number) => cardOf(character, costumes[number]?.outfit ?? ""),
    label: "Costumes",
    // From hat to feet, as our couriers stand in their frame.
    view: { x: 8, y: 14, width: 48, height: 66 },
    loader,
  });
  const shut = make("button", { type: "button", id: "shut" }, "Shut it again");
  const screen = make("section", { className: "locker", role: "dialog", ariaModal: "true", ariaLabel: "The locker" });
  screen.append(make("h2", {}, "What will you wear?"), cards, shut);
  return new Promise((close) => {
    const end = (payload?: CuePayload) => {
      input.close();
      screen.remove();
      close(payload);
    };
    cards.addEventListener("mantle-choose", ({ number }) => end(costumes[number ?? -1]?.payload));
    shut.addEventListener("click", () => end());
    document.body.append(screen);
    const input = openInput(screen, { exclusive: true, onLeave: () => end() });
    void cards.updateComplete.then(() => cards.renderRoot.querySelector<HTMLElement>("[tabindex='0']")?.focus());
  });
}

import { applyEdit, type Character, type Holdings, readCharacter, resolveLook, textIn } from "zealous-mantle";
import { repairLoadout } from "zealous-mantle/solver";
import { type MergeConflict, mergeCharacters, type SaveConflict, type Side, type Versions } from "zealous-mantle/sync";
import { make } from "../shared/dom.ts";
import { inLanguage } from "../shared/language.ts";
import { catalog, loader } from "../shared/saltmarsh.ts";
import { paintJetty } from "../shared/scenery.ts";

const words = {
  title: { en: "{name} was changed in two places", de: "{name} wurde an zwei Orten geändert" },
  why: {
    en: "What only one of them changed is in the middle already. Choose what both changed; the other is gone then, and gear goes to the bag.",
    de: "Was nur einer geändert hat, ist in der Mitte schon dabei. Wähle, was beide geändert haben; das andere ist dann fort, Ausrüstung kommt in die Tasche.",
  },
  mine: { en: "On this device", de: "Auf diesem Gerät" },
  theirs: { en: "Elsewhere", de: "Anderswo" },
  merged: { en: "What is kept", de: "Was bleibt" },
  keep: { en: "Keep this", de: "So behalten" },
  later: { en: "Decide later", de: "Später entscheiden" },
  nothing: { en: "nothing", de: "nichts" },
  name: { en: "Name", de: "Name" },
  body: { en: "Build", de: "Gestalt" },
  other: { en: "Answers", de: "Antworten" },
} as const;

/**
 * Asks the player which of two changes of a character is kept, thing by thing, and shows all three.
 *
 * @returns what they chose; `undefined` when they decide later.
 */
export async function chooseBetween(conflict: SaveConflict, holdings: Holdings): Promise<Character | undefined> {
  // Whoever was changed on one device and removed on the other stays.
  if (conflict.mine === undefined || conflict.theirs === undefined)
    return readCharacter(conflict.mine ?? conflict.theirs).character;
  const versions = versionsOf(conflict);
  if (versions === undefined) return undefined;
  const sides = new Map<string, Side>();
  const merge = () => {
    const merged = mergeCharacters(catalog, versions, {
      holdings,
      prefer: ({ at }) => sides.get(at.join()) ?? "mine",
    });
    return { ...merged, character: mended(merged.character, holdings) };
  };
  const { name } = versions.mine;
  const kept = stageOf(merge().character, words.merged, "kept-figure");
  const rows = merge().conflicts.map((each) =>
    rowOf(each, (side) => {
      sides.set(each.at.join(), side);
      kept.show(merge().character);
    }),
  );
  const dialog = make("dialog", { className: "choose" });
  dialog.setAttribute("aria-label", inLanguage(words.title).replace("{name}", name));
  const keep = make("button", {
    type: "submit",
    className: "main",
    textContent: inLanguage(words.keep),
    value: "keep",
  });
  const later = make("button", { type: "submit", textContent: inLanguage(words.later), value: "later" });
  const form = make(
    "form",
    { method: "dialog" },
    make("h1", { textContent: inLanguage(words.title).replace("{name}", name) }),
    make("p", { textContent: inLanguage(words.why) }),
    make(
      "div",
      { className: "figures" },
      stageOf(versions.mine, words.mine, "side").figure,
      kept.figure,
      stageOf(versions.theirs, words.theirs, "side").figure,
    ),
    make("div", { className: "rows" }, ...rows),
    make("div", { className: "buttons" }, later, keep),
  );
  dialog.append(form);
  // Beside the body, since screens come and go in that.
  document.documentElement.append(dialog);
  dialog.showModal();
  keep.focus();
  await new Promise((closed) => dialog.addEventListener("close", closed, { once: true }));
  dialog.remove();
  return dialog.returnValue === "keep" ? merge().character : undefined;
}

/** The character with the fewest changes that make it keep to the rules, where both changes together do not. */
function mended(character: Character, holdings: Holdings): Character {
  return (repairLoadout(catalog, character, { holdings }).edits ?? []).reduce((current, edit) => {
    const result = applyEdit(catalog, current, edit, { holdings });
    return result.ok ? result.character : current;
  }, character);
}

function versionsOf({ base, mine, theirs }: SaveConflict): Versions<Character> | undefined {
  const [here, there] = [mine, theirs].map((each) => readCharacter(each).character);
  if (here === undefined || there === undefined) return undefined;
  // Of two that were made under one id, everything that differs has to be chosen.
  const nobody = { ...there, name: "", loadout: {}, colors: {}, facts: {} };
  return { base: readCharacter(base).character ?? nobody, mine: here, theirs: there };
}

function stageOf(character: Character, title: (typeof words)["mine" | "theirs" | "merged"], className: string) {
  const stage = make("mantle-stage", {
    loader,
    backdrop: paintJetty,
    still: true,
    look: resolveLook(catalog, character),
  });
  const caption = make("figcaption", { textContent: inLanguage(title) });
  return {
    figure: make("figure", { className }, stage, caption),
    show(changed: Character) {
      stage.look = resolveLook(catalog, changed);
    },
  };
}

/** One thing that both changed: what it is, and both values to choose from. */
function rowOf(conflict: MergeConflict, choose: (side: Side) => void): HTMLElement {
  const group = conflict.at.join("-");
  const option = (side: Side) => {
    const radio = make("input", { type: "radio", name: group, checked: side === "mine", onchange: () => choose(side) });
    return make("label", {}, radio, make("span", { textContent: valueTitle(conflict, conflict[side]) }));
  };
  const what = make("legend", { textContent: titleOf(conflict) });
  return make("fieldset", {}, what, option("mine"), option("theirs"));
}

function titleOf({ at: [key = "", id = ""] }: MergeConflict): string {
  const language = document.documentElement.lang;
  if (key === "loadout") return textIn(catalog.slots.get(id)?.title ?? id, language);
  if (key === "colors") return textIn(catalog.channels.get(id)?.title ?? id, language);
  if (key === "name" || key === "body") return inLanguage(words[key]);
  return inLanguage(words.other);
}

function valueTitle({ at: [key = ""] }: MergeConflict, value: string | undefined): string {
  const language = document.documentElement.lang;
  if (value === undefined) return inLanguage(words.nothing);
  const known = { loadout: catalog.parts, colors: catalog.ramps, body: catalog.bodies }[key]?.get(value);
  return known === undefined ? value : textIn(known.title ?? value, language);
}

import { createFromPreset, makeName, type Session } from "zealous-mantle";
import { catalog } from "./saltmarsh.ts";

/** Takes the catalog's ready-made characters into the roster, those that are not there yet, until there are so many. */
export function signOn(session: Session, until: number): void {
  const known = new Set([...session.characters, ...session.retired].map(({ id }) => id));
  for (const [number, preset] of [...catalog.presets.keys()].entries()) {
    if (known.has(preset) || session.characters.length >= until) continue;
    const taken = [...session.characters, ...session.retired].map(({ name }) => name);
    const name = makeName(catalog, { seed: number + 1, taken }) ?? "";
    session.add(createFromPreset(catalog, preset, { id: preset, name }));
  }
}

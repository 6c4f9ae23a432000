import { type Character, createFromPreset, makeName, type Session } from "zealous-mantle";

/** What one of them carries of a pack that is not here: it is kept, and the roster says so. */
const foreign: Readonly<Record<string, Character["bag"]>> = { "new-boots": { "reef-lantern": [1] } };

/** Takes the catalog's ready-made characters into the roster, those that are not there yet, until there are so many. */
export function signOn(session: Session, until: number): void {
  const { catalog } = session;
  const known = new Set([...session.characters, ...session.retired].map(({ id }) => id));
  for (const [number, preset] of [...catalog.presets.keys()].entries()) {
    if (known.has(preset) || session.characters.length >= until) continue;
    const taken = [...session.characters, ...session.retired].map(({ name }) => name);
    const name = makeName(catalog, { seed: number + 1, taken }) ?? "";
    const made = createFromPreset(catalog, preset, { id: preset, name });
    session.add({ ...made, bag: { ...made.bag, ...foreign[preset] } });
  }
}

import type { Catalog } from "../catalog/catalog.ts";
import type { Character } from "./character.ts";
import type { Edit, EditResult } from "./edit.ts";
import { characterProblem, refuse, unknownId } from "./refuse.ts";

/** Sets a channel to one of its ramps. */
export function paint(catalog: Catalog, character: Character, edit: Extract<Edit, { paint: string }>): EditResult {
  const channel = catalog.channels.get(edit.paint);
  if (channel === undefined) return refuse(character, unknownId("channel", edit.paint, catalog.channels, ["colors"]));
  if (!channel.ramps.includes(edit.ramp)) {
    const offered = channel.ramps.map((ramp) => `"${ramp}"`).join(", ");
    const because = `Channel "${channel.id}" does not offer ramp "${edit.ramp}".`;
    return refuse(
      character,
      characterProblem("ramp-not-offered", ["colors", channel.id], because, { say: `It offers ${offered}.` }),
    );
  }
  return {
    ok: true,
    character: { ...character, colors: { ...character.colors, [channel.id]: edit.ramp } },
    displaced: [],
  };
}

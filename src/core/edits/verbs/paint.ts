import type { Catalog } from "../../catalog/model/catalog.ts";
import type { Character } from "../../character/character.ts";
import type { EditResult, Edits } from "../../character/edit.ts";
import { fixBy, loadoutProblem, refuse, unknownId } from "../../character/refuse.ts";
import { isOffered } from "../../rules/is-offered.ts";
import type { VerbModule } from "../verb.ts";

/** Sets a channel to one of its ramps, or to a color. */
export function paint(catalog: Catalog, character: Character, edit: Edits["paint"]): EditResult {
  const channel = catalog.channels.get(edit.paint);
  if (channel === undefined) return refuse(character, unknownId(catalog, "channel", edit.paint, ["colors"]));
  if (!isOffered(channel, edit.ramp)) {
    const problem = loadoutProblem("ramp-not-offered", {
      subject: { kind: "channel", id: channel.id },
      at: ["colors", channel.id],
      params: { channel: channel.id, ramp: edit.ramp },
      fixes: [fixBy("offers-ramps", { ramps: channel.ramps })],
    });
    return refuse(character, problem);
  }
  const colors = { ...character.colors, [channel.id]: edit.ramp };
  return { ok: true, character: { ...character, colors }, displaced: [] };
}

/** The verb `paint`. */
export const paintVerb: VerbModule<"paint"> = {
  apply: (edit, { catalog, character }) => paint(catalog, character, edit),
};

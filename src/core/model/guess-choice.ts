import { nameId, titleOf } from "../art/name-id.ts";
import { getOwn } from "../base/record.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import type { Channels, Choice, PieceChoice } from "./choice.ts";
import type { Piece } from "./find-pieces.ts";

/** What a mesh of bare skin is called, in a word of its name. */
const skinWords: ReadonlySet<string> = new Set(
  "body skin torso trunk chest belly hips head face neck arm arms hand hands leg legs foot feet".split(" "),
);

/**
 * Chooses what becomes of a mesh: as it is said, or else as its name and the joint it hangs on let guess.
 *
 * @returns `null` for one that is left out; `undefined` where nothing says in which slot it goes.
 */
export function choose(
  catalog: Catalog,
  piece: Piece,
  said: Readonly<Record<string, PieceChoice | null>>,
): Choice | null | undefined {
  const own = getOwn(said, piece.name);
  if (own === null) return null;
  const channels = channelsOf(catalog, piece);
  const id = nameId(piece.name) ?? "mesh";
  if (own?.region !== undefined) return { kind: "region", region: own.region, channels };
  const slot = own?.slot ?? slotIn(catalog, piece.name) ?? slotIn(catalog, piece.hangsOn?.getName() ?? "");
  const isSkin = piece.skin !== undefined && id.split("-").some((word) => skinWords.has(word));
  if (own === undefined && isSkin && slotIn(catalog, piece.name) === undefined)
    return { kind: "region", region: id, channels };
  if (slot === undefined || !catalog.slots.has(slot)) return undefined;
  return { kind: "part", part: own?.part ?? id, slot, title: titleOf(piece.name), channels };
}

/** The slot whose words are all in a name, in one number or the other; the longest where there are several. */
function slotIn(catalog: Catalog, name: string): string | undefined {
  const words = new Set((nameId(name) ?? "").split("-").map(stemOf));
  const found = [...catalog.slots.keys()].filter((slot) => slot.split("-").every((word) => words.has(stemOf(word))));
  return found.toSorted((one, other) => other.length - one.length)[0];
}

/** A word without the ending that makes it many; sides are written out. */
function stemOf(word: string): string {
  return { l: "left", r: "right" }[word] ?? word.replace(/(?<=...)s$/, "");
}

/** Materials that are called as a channel is. */
function channelsOf(catalog: Catalog, { materials }: Piece): Channels {
  const found = materials.flatMap((material) => {
    const id = nameId(material);
    return id !== undefined && catalog.channels.has(id) ? [[material, id] as const] : [];
  });
  return found.length === 0 ? undefined : Object.fromEntries(found);
}

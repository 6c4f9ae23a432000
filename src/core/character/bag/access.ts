import { getOwn } from "../../base/record.ts";
import type { Access, Part } from "../../catalog/model/catalog.ts";
import type { Character } from "../character.ts";
import type { Holdings } from "../context.ts";
import type { LoadoutProblem } from "../edit.ts";
import { fixBy, loadoutProblem } from "../refuse.ts";
import { countInBag } from "./bag.ts";

/** How a part stands with a player: as their holdings have it, or else as the catalog has it. */
export function accessTo(part: Part, holdings: Holdings | undefined): Access {
  return holdings === undefined ? "owned" : (getOwn(holdings, part.id) ?? part.access);
}

/** Whether a part can come to a character: unless it is retired, or worn or carried already. */
export function isAvailable(part: Part, character: Pick<Character, "bag" | "loadout"> | undefined): boolean {
  if (!part.retired) return true;
  if (character === undefined) return false;
  return countInBag(character.bag, part.id) > 0 || Object.values(character.loadout).includes(part.id);
}

/** Why a player may not have a part, if so: it is not owned, or not even known. */
export function withheld(part: Part, holdings: Holdings | undefined, at: readonly string[]): readonly LoadoutProblem[] {
  const access = accessTo(part, holdings);
  if (access === "owned") return [];
  const about = {
    subject: { kind: "part", id: part.id },
    at,
    params: { part: part.id },
    chain: [{ kind: "access", part: part.id, access }],
  } as const;
  if (access === "secret") return [loadoutProblem("not-known", about)];
  const fix = part.price === undefined ? fixBy("acquire-first") : fixBy("acquire-for", { price: part.price });
  return [loadoutProblem("not-owned", { ...about, fixes: [fix] })];
}

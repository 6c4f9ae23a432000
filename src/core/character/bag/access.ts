import { valueAt } from "../../base/record.ts";
import type { Access, Part } from "../../catalog/model/catalog.ts";
import type { Holdings } from "../context.ts";
import type { LoadoutProblem } from "../edit.ts";
import { fixOf, loadoutProblem } from "../refuse.ts";
import type { Voice } from "../wording.ts";

/** How a part stands with a player: as their holdings have it, or else as the catalog has it. */
export function accessTo(part: Part, holdings: Holdings | undefined): Access {
  return holdings === undefined ? "owned" : (valueAt(holdings, part.id) ?? part.access);
}

/** Why a player may not have a part, if so: it is not owned, or not even known. */
export function withheld(
  voice: Voice,
  part: Part,
  holdings: Holdings | undefined,
  at: readonly string[],
): readonly LoadoutProblem[] {
  const access = accessTo(part, holdings);
  if (access === "owned") return [];
  const about = {
    subject: { kind: "part", id: part.id },
    at,
    words: { part: part.id },
    chain: [{ kind: "access", part: part.id, access }],
  } as const;
  if (access === "secret") return [loadoutProblem(voice, "not-known", about)];
  const fix =
    part.price === undefined ? fixOf(voice, "acquire-first") : fixOf(voice, "acquire-for", { price: part.price });
  return [loadoutProblem(voice, "not-owned", { ...about, fixes: [fix] })];
}

import { nearestId } from "../../base/nearest-id.ts";
import { type Fix, type Problem, pointerTo } from "../../base/problem.ts";

/** What the order of packs depends on. */
export interface Ordered {
  readonly id: string;
  readonly needs: readonly string[];
  /** Its `pack.json`, as places name it. */
  readonly file: string;
}

/**
 * Puts packs in the order in which they are laid: each after those it needs, and else by their ids, so that it makes no difference in which order they
 * were named. A pack that is missing or in a circle is a problem, and what needs it is left out.
 *
 * @param broken - the ids of packs that are there and cannot be read, which is a problem already.
 */
export function orderPacks<P extends Ordered>(
  packs: readonly P[],
  broken: ReadonlySet<unknown>,
): { readonly ordered: readonly P[]; readonly problems: readonly Problem[] } {
  const byId = new Map(packs.map((pack) => [pack.id, pack]));
  const problems: Problem[] = [];
  const states = new Map<string, "open" | "laid" | "left">();
  const ordered: P[] = [];
  const way: P[] = [];
  const visit = (pack: P): boolean => {
    const state = states.get(pack.id);
    if (state === "open") problems.push(circle(way.slice(way.indexOf(pack))));
    if (state !== undefined) return state === "laid";
    states.set(pack.id, "open");
    way.push(pack);
    let isComplete = true;
    for (const [at, id] of pack.needs.entries()) {
      const needed = byId.get(id);
      if (needed === undefined && !broken.has(id)) problems.push(notThere(pack, at, id, byId));
      isComplete = needed !== undefined && visit(needed) && isComplete;
    }
    way.pop();
    states.set(pack.id, isComplete ? "laid" : "left");
    if (isComplete) ordered.push(pack);
    return isComplete;
  };
  for (const pack of packs.toSorted((one, other) => (one.id < other.id ? -1 : 1))) visit(pack);
  return { ordered, problems };
}

function notThere(pack: Ordered, at: number, id: string, known: ReadonlyMap<string, Ordered>): Problem {
  const others = [...known.keys()].filter((each) => each !== pack.id);
  const meant = nearestId(id, others);
  const fix: Fix =
    meant === undefined
      ? { code: "mend-missing-needed-pack", params: { id } }
      : { code: "meant-id", params: { meant } };
  return {
    code: "missing-needed-pack",
    params: { pack: pack.id, id },
    severity: "error",
    place: { file: pack.file, pointer: pointerTo("needs", at) },
    fixes: [fix],
  };
}

/** @param packs - each of which needs the next, and the last the first. */
function circle(packs: readonly Ordered[]): Problem {
  const places = packs.map(({ file, needs }, at) => ({
    file,
    pointer: pointerTo("needs", needs.indexOf(packs[(at + 1) % packs.length]?.id ?? "")),
  }));
  const [place = { pointer: "" }, ...related] = places;
  return {
    code: "circular-packs",
    params: { packs: packs.map(({ id }) => id) },
    severity: "error",
    place,
    related,
    fixes: [{ code: "mend-circular-packs", params: {} }],
  };
}

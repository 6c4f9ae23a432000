import { getOrInsert } from "../../base/get-or-insert.ts";
import { message } from "../../base/message.ts";
import { type ArtCheck, type ArtSign, type FigureTrace, frameOf, type TiedLayer } from "../art/art-check.ts";
import { intersection, overlap } from "../art/mask.ts";

interface Tied {
  readonly figure: FigureTrace;
  readonly layer: TiedLayer;
}

/** Layers of different slots at one depth that cover one another: which of them is in front, only the order of the slots says. */
export const depthTies: ArtCheck = {
  name: "depths that are tied",
  *compare(figures) {
    const byDepth = new Map<string, Tied[]>();
    for (const figure of figures)
      for (const layer of figure.tied)
        getOrInsert(byDepth, `${layer.facing} ${layer.depth}`, () => []).push({ figure, layer });
    for (const tied of byDepth.values())
      for (const [at, one] of tied.entries())
        for (const other of tied.slice(at + 1)) if (canMeet(one.figure, other.figure)) yield* tieOf(one, other);
  },
};

/** Whether two parts, or a part and the body, are ever seen at once. */
function canMeet(one: FigureTrace, other: FigureTrace): boolean {
  const isWithout = ({ without }: FigureTrace, { slot }: FigureTrace) => slot !== undefined && without.includes(slot);
  return one.slot !== other.slot && !isWithout(one, other) && !isWithout(other, one);
}

function* tieOf(one: Tied, other: Tied): Iterable<ArtSign> {
  const at = one.layer.frames.findIndex((frame, number) => {
    const beside = other.layer.frames[number];
    return beside !== undefined && overlap(frame.mask, beside.mask) > 0;
  });
  const [frame, beside] = [one.layer.frames[at], other.layer.frames[at]];
  if (frame === undefined || beside === undefined) return;
  const { facing, depth, path } = other.layer;
  const both = [one.figure, other.figure];
  yield {
    // Two slots at one depth are tied whatever is worn in them.
    cause: `depth-tie ${both.map(({ slot }) => slot ?? "").join(" ")}`,
    owner: other.figure.owner,
    severity: "warning",
    path,
    finding: message("depth-tie", { owner: other.figure.owner, other: one.figure.owner, depth, facing }),
    fix: message("mend-depth-tie"),
    at: {
      parts: both.flatMap(({ owner, slot }) => (slot === undefined ? [] : [owner])),
      frame: frameOf(frame),
      pixels: intersection(frame.mask, beside.mask),
    },
  };
}

import { limits } from "../base/limits.ts";
import type { Problem } from "../base/problem.ts";
import type { Progress } from "../base/progress.ts";
import { getOwn } from "../base/record.ts";
import type { Body, Catalog, Part } from "../catalog/model/catalog.ts";
import { createCharacter } from "../edits/create-character.ts";
import { checkLoadout } from "../loadout/check-loadout.ts";
import { isDrawn } from "../look/is-drawn.ts";
import type { Image } from "../raster/image.ts";
import { fitsBody } from "../rules/fits-body.ts";
import type { ArtSign } from "./art/art-check.ts";
import { drawSeen } from "./art/draw-seen.ts";
import { type FigureGroup, type FiguresSeen, figureLooker, type LoadPicture } from "./art/look-at-figures.ts";
import { artChecks } from "./checks.ts";

/** A finding about pixels, and where it is seen. */
export interface ArtProblem extends Problem {
  /** The frame in which it is seen, at six times its size, with the pixels ringed; `undefined` when it was not asked for, or is in no frame. */
  readonly seen: Image | undefined;
}

export interface SurveyArtOptions {
  /** The ids of the parts to look at. @defaultValue all */
  readonly parts?: ReadonlySet<string>;
  /** Whether to draw where findings are seen. @defaultValue `false` */
  readonly draw?: boolean;
  /** Is called when some parts on a body are done. */
  readonly onProgress?: (progress: Progress) => void;
  /** Who looks at figures: as many groups are looked at at once as there are here. @defaultValue one, in this thread */
  readonly lookers?: readonly ((group: FigureGroup) => Promise<FiguresSeen>)[];
}

/**
 * Looks at the pixels of every part on every body it fits: what is blank, cut off, in the wrong place or order, of a wrong color, or another
 * part's. One cause gives one finding. Pictures are asked for once a body, and not kept.
 *
 * @param load - gives a picture by its path; `undefined` for one that is not there or cannot be read, which `checkArt` and the reader find.
 */
export async function surveyArt(
  catalog: Catalog,
  load: LoadPicture,
  { parts, draw = false, onProgress, lookers = [figureLooker(catalog, load)] }: SurveyArtOptions = {},
): Promise<readonly ArtProblem[]> {
  const groups = figureGroups(catalog, parts);
  const total = groups.reduce((sum, group) => sum + group.parts.length, 0);
  const seen: FiguresSeen[] = [];
  let [next, done] = [0, 0];
  await Promise.all(
    lookers.map(async (look) => {
      for (let at = next++; at < groups.length; at = next++) {
        const group = groups[at] as FigureGroup;
        seen[at] = await look(group);
        done += group.parts.length;
        onProgress?.({ done, total });
      }
    }),
  );
  const found = findingsIn(catalog, groups, seen);
  const problems: ArtProblem[] = [];
  for (const { sign, body } of found.slice(0, limits.findings)) {
    const picture = draw && sign.at !== undefined ? await drawSeen(catalog, body, sign.at, load) : undefined;
    problems.push(problemOf(sign, picture));
  }
  return problems;
}

/** How many parts are looked at in one go: enough that the body under them is not drawn too often. */
const together = 12;

/** Every body with the parts it can wear that show anything, some at a time. */
export function figureGroups(catalog: Catalog, only?: ReadonlySet<string>): readonly FigureGroup[] {
  return [...catalog.bodies.values()].filter(isDrawn).flatMap((body) => {
    const isShown = (part: Part) => part.layers.length > 0 && part.slots.length > 0 && fitsBody(part, body.id);
    const parts = [...catalog.parts.values()]
      .filter((part) => only?.has(part.id) !== false && isShown(part))
      .map(({ id }) => id);
    const count = Math.max(1, Math.ceil(parts.length / together));
    return Array.from({ length: count }, (_, at) => ({
      body: body.id,
      bare: at === 0,
      parts: parts.slice(at * together, (at + 1) * together),
    }));
  });
}

interface Finding {
  readonly sign: ArtSign;
  readonly body: Body;
}

/** What is found, once a cause, in the order of bodies and parts: without what is allowed, or can never be worn so. */
function findingsIn(
  catalog: Catalog,
  groups: readonly FigureGroup[],
  seen: readonly FiguresSeen[],
): readonly Finding[] {
  const found = new Map<string, Finding>();
  const note = (sign: ArtSign, body: Body) => {
    const { allow } = catalog.parts.get(sign.owner) ?? body;
    if (found.has(sign.cause) || getOwn(allow, sign.finding.code) !== undefined) return;
    if (canBeWorn(catalog, body, sign.at?.parts ?? [])) found.set(sign.cause, { sign, body });
  };
  for (const body of catalog.bodies.values()) {
    const own = seen.filter((_, at) => groups[at]?.body === body.id);
    for (const { signs } of own) for (const sign of signs) note(sign, body);
    const traces = own.flatMap((each) => each.traces);
    for (const check of artChecks) for (const sign of check.compare?.(traces) ?? []) note(sign, body);
  }
  return [...found.values()];
}

/** Whether parts may be worn at once: together they break no rule that none of them breaks alone. */
function canBeWorn(catalog: Catalog, body: Body, parts: readonly string[]): boolean {
  if (parts.length < 2) return true;
  const bare = createCharacter(catalog, { body: body.id });
  const broken = (ids: readonly string[]) => {
    const loadout = Object.fromEntries(ids.map((id) => [catalog.parts.get(id)?.slots[0] ?? "", id]));
    return checkLoadout(catalog, { ...bare, loadout }).map(({ code, params }) => JSON.stringify([code, params]));
  };
  const alone = new Set(parts.flatMap((id) => broken([id])));
  return broken(parts).every((each) => alone.has(each));
}

function problemOf({ severity, path, finding, fix }: ArtSign, seen: Image | undefined): ArtProblem {
  return { ...finding, severity, place: { file: path, pointer: "" }, fixes: [fix], seen };
}

import { getOwn } from "../base/record.ts";
import { requireKnown } from "../base/require-known.ts";
import type { Body, Capsule, Catalog, CatalogIds, Form, SignalsOf } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Signal } from "../character/context.ts";
import { missingPacks } from "../character/needed-packs.ts";
import { concealedGear } from "../edits/concealed-gear.ts";
import { type Worn, wornParts } from "../rules/worn.ts";
import { activeForms } from "./forms.ts";
import type { Look, LookLayer, LookMesh } from "./look.ts";
import { type Figured, type LookPlan, planLook } from "./plan-look.ts";
import { skeletonOf } from "./skeleton-of.ts";

export interface LookOptions<Ids extends CatalogIds = CatalogIds> {
  /** Facts of the running game, which forms depend on. */
  readonly signals?: SignalsOf<Ids, Signal>;
  /** The forms that were active before, `look.activeForms`, so that a form with `until` lasts until then. */
  readonly before?: readonly string[];
  /** A form to show whatever the signals say, as in a preview. */
  readonly form?: string;
}

/**
 * Resolves how a character looks under signals: the layers of its body and of every worn part, without those another part hides,
 * each with its colors; and what the active form makes of that. The character itself is not changed by a form, so nothing
 * chosen is lost on the way back.
 *
 * Parts the catalog does not know, or that were not made for the body, are not shown; a body that comes with a pack that is missing is shown by the
 * first of the catalog. A channel the character has not painted,
 * or painted with a ramp that is not offered, shows its default.
 *
 * @throws MantleError `unknown-body`, `unknown-form`.
 * @example
 * const look = resolveLook(catalog, wren, { signals: { stamina: 1 } })
 * celsAt(look, { animation: "walk", facing: "west", time: 0.35 })
 */
export function resolveLook<Ids extends CatalogIds>(
  catalog: Catalog<Ids>,
  character: Character,
  options?: LookOptions<Ids>,
): Look<Ids>;
export function resolveLook(catalog: Catalog, character: Character, options: LookOptions = {}): Look {
  const { active, ...figure } = figureOf(catalog, character, options);
  return lookOfPlan(planLook(figure), active);
}

/** Who is seen under signals: the body, its active forms, the one that comes first, and what shows of what is worn. */
export function figureOf(
  catalog: Catalog,
  character: Character,
  { form: wanted, signals = {}, before }: LookOptions,
): Figured & { readonly active: readonly string[] } {
  const body = shownBody(catalog, character);
  if (wanted !== undefined) requireKnown("form", wanted, catalog.forms);
  const active = wanted === undefined ? activeForms(catalog, body, signals, before) : [wanted];
  const form = catalog.forms.get(active[0] ?? "");
  return { catalog, character, body, form, active, shown: shownParts(catalog, character, form) };
}

/** The body that shows a character. @throws MantleError `unknown-body` for one that no missing pack accounts for. */
export function shownBody(catalog: Catalog, character: Character): Body {
  const [first] = catalog.bodies.values();
  const isMissing = !catalog.bodies.has(character.body) && missingPacks(catalog, character).length > 0;
  return isMissing && first !== undefined ? first : requireKnown("body", character.body, catalog.bodies);
}

/** The look of a body that wears just these parts. @param active - the forms that stand, the active one first. */
export function lookOf(
  catalog: Catalog,
  character: Character,
  body: Body,
  shown: readonly Worn[],
  active: readonly string[],
): Look {
  const form = catalog.forms.get(active[0] ?? "");
  return lookOfPlan(planLook({ catalog, character, body, form, shown }), active);
}

/** The look that a plan leads to. */
export function lookOfPlan({ catalog, body, form, ...plan }: LookPlan, active: readonly string[]): Look {
  const layers = plan.layers.flatMap(({ drawn }) => drawn ?? []);
  const meshes = plan.meshes.flatMap(({ drawn }) => drawn ?? []);
  const { animations = noAnimations, opacity = 1, scale = 1 } = form ?? {};
  const alike = [catalog.id, catalog.version, body.id, opacity, scale, ...[...animations].flat()];
  return Object.freeze({
    key: [...alike, ...layers.map(layerKey), ...meshes.map(meshKey)].join("|"),
    rig: body.rig,
    layers,
    skeleton: skeletonOf(body),
    meshes,
    points: body.points,
    form: form?.id,
    activeForms: active,
    animations,
    collider: form?.collider ?? body.collider,
    capsule: scaled(form?.capsule ?? body.capsule, scale),
    scale,
    abilities: form?.abilities ?? body.abilities,
    opacity,
  });
}

function scaled(capsule: Capsule | undefined, by: number): Capsule | undefined {
  return capsule && { radius: capsule.radius * by, height: capsule.height * by };
}

const noAnimations: ReadonlyMap<string, string> = new Map();

/** What is worn and not concealed by an outfit, with what the form shows instead. */
function shownParts(catalog: Catalog, character: Character, form: Form | undefined): readonly Worn[] {
  const all = wornParts(catalog, character);
  const concealed = concealedGear(catalog, character);
  const worn = concealed.size === 0 ? all : all.filter(({ slot }) => !concealed.has(slot));
  const instead = Object.entries(form?.parts ?? {});
  if (instead.length === 0) return worn;
  const given = instead.flatMap(([slot, id]): Worn[] => {
    const part = id === null ? undefined : catalog.parts.get(id);
    return part === undefined ? [] : [{ slot, part, issued: true }];
  });
  return [...worn.filter(({ slot }) => getOwn(form?.parts ?? {}, slot) === undefined), ...given];
}

/** Another for every layer that shows anything else, or elsewhere: one picture may be hung in several places. */
function layerKey(layer: LookLayer): string {
  const { images, art, depth, depthByFacing, recolor, opacity, side, attach, offset, scale } = layer;
  const words = [`${images[0]}@${depth}`, art.key, ...[...depthByFacing].map(([facing, there]) => `${facing}${there}`)];
  if (recolor !== undefined) words.push(`#${recolor.ramp}`);
  if (opacity !== 1) words.push(`*${opacity}`);
  if (side !== "both") words.push(side);
  if (attach !== undefined) words.push(JSON.stringify(attach));
  if (offset.x !== 0 || offset.y !== 0 || scale !== 1) words.push(`+${offset.x},${offset.y}*${scale}`);
  return words.join("");
}

function meshKey({ file, node, attach, recolors }: LookMesh): string {
  const colors = [...recolors].map(([material, { ramp }]) => `${material}#${ramp}`);
  return [file, node, attach?.joint, attach?.offset, ...colors].join("@");
}

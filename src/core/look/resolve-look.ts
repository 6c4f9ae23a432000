import { formatColor, parseColor } from "../base/color/color.ts";
import { fitRamp, makeRamp } from "../base/color/ramp.ts";
import { getOwn } from "../base/record.ts";
import { requireKnown } from "../base/require-known.ts";
import type {
  Body,
  Capsule,
  Catalog,
  CatalogIds,
  Depth,
  Form,
  Layer,
  LayerArt,
  Mesh,
  Part,
  SignalsOf,
} from "../catalog/model/catalog.ts";
import { isTabled, tablePath } from "../catalog/read/read-frames.ts";
import type { Character } from "../character/character.ts";
import type { Signal } from "../character/context.ts";
import { missingPacks } from "../character/needed-packs.ts";
import { concealedGear } from "../edits/concealed-gear.ts";
import { isOffered } from "../edits/verbs/paint.ts";
import { fitsBody } from "../rules/fits-body.ts";
import { type Worn, wornParts } from "../rules/worn.ts";
import { activeForms } from "./forms.ts";
import { isDrawn } from "./is-drawn.ts";
import type { Look, LookLayer, LookMesh, Recolor } from "./look.ts";
import { pictureOf } from "./picture-of.ts";
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
  const body = shownBody(catalog, character);
  if (options.form !== undefined) requireKnown("form", options.form, catalog.forms);
  const active =
    options.form === undefined ? activeForms(catalog, body, options.signals ?? {}, options.before) : [options.form];
  const form = catalog.forms.get(active[0] ?? "");
  return lookOf(catalog, character, body, shownParts(catalog, character, form), active);
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
  const worn = shown.filter(({ part }) => fitsBody(part, body.id));
  const inColor = (channel: string) => recolorFor(catalog, character, channel, getOwn(form?.colors ?? {}, channel));
  const draw = (layer: Layer, worn?: Worn, side: LookLayer["side"] = "both") => {
    const recolor = layer.channel === undefined ? undefined : inColor(layer.channel);
    return { ...lookLayer(catalog, body, layer, worn), recolor, side };
  };
  const bare = catalog.slots.has("body") ? noOne : { slot: "body", part: undefined };
  const isShown = (layer: Layer | Mesh, owner: Owner = bare) =>
    isInForm(layer, form) && hiderOf(layer, owner, worn) === undefined;
  const layers = [
    ...(form?.layers ?? body.layers).filter((layer) => isShown(layer)).map((layer) => draw(layer)),
    ...worn.flatMap((each) =>
      each.part.layers.flatMap((layer) => {
        const side = isDrawn(body) && isShown(layer, each) ? sideOf(layer, each, body) : undefined;
        return side === undefined ? [] : [draw(layer, each, side)];
      }),
    ),
  ];
  const model = (mesh: Mesh, part?: string): LookMesh => ({
    part,
    file: mesh.file.replaceAll("{body}", body.artName),
    node: mesh.node,
    attach: body.rig.model?.points.get(mesh.attach ?? ""),
    recolors: new Map(
      [...mesh.channels].flatMap(([material, id]) => {
        const recolor = inColor(id);
        return recolor === undefined ? [] : [[material, recolor]];
      }),
    ),
  });
  const meshes = [
    ...body.meshes.filter((mesh) => isShown(mesh)).map((mesh) => model(mesh)),
    ...worn.flatMap((each) =>
      each.part.meshes
        .filter((mesh) => (mesh.in ?? each.slot) === each.slot && isShown(mesh, each))
        .map((mesh) => model(mesh, each.part.id)),
    ),
  ];
  const animations = form?.animations ?? noAnimations;
  const opacity = form?.opacity ?? 1;
  const scale = form?.scale ?? 1;
  return Object.freeze({
    key: [
      catalog.id,
      catalog.version,
      body.id,
      opacity,
      scale,
      ...[...animations].flat(),
      ...layers.map(layerKey),
      ...meshes.map(meshKey),
    ].join("|"),
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
export function shownParts(catalog: Catalog, character: Character, form: Form | undefined): readonly Worn[] {
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

/** Who has a layer or a mesh: a part in a slot, or the body. */
export type Owner = { readonly slot: string; readonly part: Part | undefined };

/** Of a body whose layers cannot be hidden, since a slot has its name. */
const noOne: Owner = { slot: "", part: undefined };

/** Whether a layer is one of a form, or of none where none is active. */
export function isInForm({ forms, notForms }: Layer | Mesh, form: Form | undefined): boolean {
  if (forms !== undefined && (form === undefined || !forms.includes(form.id))) return false;
  return form === undefined || !notForms.includes(form.id);
}

/** The worn part that hides a layer, if one does. */
export function hiderOf(layer: Layer | Mesh, { slot, part }: Owner, worn: readonly Worn[]): Worn | undefined {
  return worn.find(
    (other) =>
      other.part !== part &&
      other.part.hides.some((hidden) => hidden.slot === slot && (hidden.group ?? layer.group) === layer.group),
  );
}

/**
 * Where a layer is shown, `undefined` for nowhere. In a mirrored facing a part drawn for both hands shows its other hand's layer,
 * whose mirror image is this hand: so what is in the left hand stays in the left hand.
 */
export function sideOf(layer: Layer, { slot, part }: Worn, { rig }: Body): LookLayer["side"] | undefined {
  if (layer.in === undefined) return "both";
  const twin = rig.twins.get(slot);
  const isForBoth = twin !== undefined && part.layers.some((other) => other.in === twin);
  if (layer.in === slot) return isForBoth ? "drawn" : "both";
  return isForBoth && layer.in === twin ? "mirrored" : undefined;
}

/** All of a layer but its colors, and where it is shown. */
function lookLayer(
  { tables }: Catalog,
  body: Body,
  layer: Layer,
  worn: Worn | undefined,
): Omit<LookLayer, "recolor" | "side"> {
  const { rest, byFacing } = depthOf(layer, body, worn?.slot ?? "");
  return {
    part: worn?.part.id,
    ...drawnArt(layer, body, tables),
    blank: layer.blank,
    depth: rest,
    depthByFacing: byFacing,
    opacity: layer.opacity,
    otherwise: layer.otherwise,
    attach: layer.attach,
    offset: forBody(layer.offset, body) ?? { x: 0, y: 0 },
    scale: forBody(layer.scale, body) ?? 1,
  };
}

function depthOf({ depth, group }: Layer, { rig: { depths } }: Body, slot: string): Depth {
  return depth ?? depths.get(`${slot}/${group}`) ?? depths.get(slot) ?? noDepth;
}

const noDepth: Depth = { rest: 0, byFacing: new Map() };

/** The pictures of a layer on a body, and how its frames lie in them. A table that was not handed in shows nothing. */
export function drawnArt(layer: Layer, body: Body, tables: Catalog["tables"]): Pick<LookLayer, "images" | "art"> {
  const own = pictureOf(layer, body);
  if (!isTabled(layer)) return { images: [own], art: layer.art.get(body.rig.id) ?? noArt };
  const table = tables.get(tablePath(layer, body.artName));
  if (table === undefined) return { images: [], art: noArt };
  return { images: table.images.map((image) => image ?? own), art: table.art.get(body.rig.id) ?? noArt };
}

const noArt: LayerArt = { key: "", pictures: [], frames: new Map(), grid: undefined };

/** The entry for a body, or else the nearest it extends, or else for all. */
function forBody<T>(said: ReadonlyMap<string, T>, { lineage }: Body): T | undefined {
  const named = lineage.find((body) => said.has(body));
  return said.get(named ?? "");
}

/**
 * The colors a character shows in a channel; `undefined` for a channel or ramp the catalog does not have.
 *
 * Where the channel allows it, a color of the character's own makes a ramp of its own.
 *
 * @param instead - a ramp that is shown whatever the character chose.
 */
export function recolorFor(
  catalog: Catalog,
  character: Pick<Character, "colors">,
  id: string,
  instead?: string,
): Recolor | undefined {
  const channel = catalog.channels.get(id);
  if (channel === undefined) return undefined;
  const { key, match } = channel;
  const chosen = getOwn(character.colors, id) ?? channel.default;
  const painted = instead ?? (isOffered(channel, chosen) ? chosen : channel.default);
  const color = parseColor(painted);
  if (color !== undefined) {
    const ramp = formatColor(color);
    const colors = makeRamp(ramp, { steps: key.length }).map((each) => parseColor(each) ?? 0);
    return { channel: id, ramp, match, key, colors };
  }
  const ramp = catalog.ramps.get(painted);
  return ramp === undefined ? undefined : { channel: id, ramp: ramp.id, match, key, colors: fitRamp(ramp.colors, key) };
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

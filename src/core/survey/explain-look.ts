import { type Message, message } from "../base/message.ts";
import { getOwn } from "../base/record.ts";
import type { Text } from "../base/text.ts";
import type { Catalog, Form, Layer, Mesh, Point } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import { concealedGear } from "../edits/concealed-gear.ts";
import { checkLoadout } from "../loadout/check-loadout.ts";
import { celsAt, shownAnimation } from "../look/cels-at.ts";
import { isDrawn } from "../look/is-drawn.ts";
import type { Look, LookLayer, Moment } from "../look/look.ts";
import { animationOf } from "../look/moments.ts";
import { pictureOf } from "../look/picture-of.ts";
import { pointAt } from "../look/point-at.ts";
import {
  hiderOf,
  isInForm,
  type LookOptions,
  type Owner,
  resolveLook,
  shownBody,
  shownParts,
  sideOf,
} from "../look/resolve-look.ts";
import type { Dressed } from "../rules/condition.ts";
import { fitsBody } from "../rules/fits-body.ts";
import { ruleMessages } from "../rules/spoken-kinds.ts";
import { type Worn, wornParts } from "../rules/worn.ts";
import { relatedKind } from "./related-kinds.ts";

/** A layer of the body or of something worn, and whether it shows. */
export interface ExplainedLayer {
  /** `undefined` for the body. */
  readonly part: string | undefined;
  readonly slot: string | undefined;
  readonly group: string | undefined;
  readonly image: string;
  /** In the facing of the moment; `undefined` for what is not in the look. */
  readonly depth: number | undefined;
  /** The channel that colors it and the ramp that is shown. */
  readonly color: { readonly channel: string; readonly ramp: string } | undefined;
  /** Why it does not show at this moment; `undefined` for what does. */
  readonly because: Message | undefined;
}

/** A mesh of the body or of something worn, and whether it shows. */
export interface ExplainedMesh extends Pick<ExplainedLayer, "part" | "slot" | "group" | "because"> {
  readonly file: string;
  /** The name of the node; all meshes of the file when `undefined`. */
  readonly node: string | undefined;
}

/** A rule that what is worn has to do with. */
export interface ExplainedRule {
  readonly number: number;
  readonly state: "broken" | "kept";
  readonly messages: readonly Message[];
  readonly message: Text | undefined;
}

/** A form of the body, and what its signals are. */
export interface ExplainedForm {
  readonly id: string;
  /** `shown`: it is active, and comes first. `active`: another one comes first. `off`: its signals are not there. */
  readonly state: "shown" | "active" | "off";
  readonly signals: Readonly<Record<string, unknown>>;
}

/** Why a character looks as it does at a moment. */
export interface ExplainedLook {
  readonly look: Look;
  /** Back to front, then those that are not in the look. */
  readonly layers: readonly ExplainedLayer[];
  /** In three dimensions. */
  readonly meshes: readonly ExplainedMesh[];
  /** Pixels from the origin; `undefined` for what is not seen at this moment. */
  readonly points: ReadonlyMap<string, Point | undefined>;
  readonly forms: readonly ExplainedForm[];
  readonly rules: readonly ExplainedRule[];
}

export interface ExplainOptions extends LookOptions {
  /** What the game knows, for the rules. */
  readonly context?: Context;
}

/**
 * Explains why a character looks as it does at a moment: every layer and mesh of its body and of what it wears, with the reason where it does not show; points, forms and
 * their signals, and the rules that what is worn has to do with.
 *
 * For those who make the game; it costs many times as much as a look.
 *
 * @throws as `resolveLook` and `celsAt` do.
 * @example
 * explainLook(catalog, wren, { animation: "walk", facing: "north", time: 0 }).layers.find(({ group }) => group === "top")
 * // → { …, group: "top", because: { code: "hidden-by", params: { part: "storm-hat" } } }
 */
export function explainLook(
  catalog: Catalog,
  character: Character,
  moment: Moment,
  { context = {}, ...options }: ExplainOptions = {},
): ExplainedLook {
  const look = resolveLook(catalog, character, options);
  const body = shownBody(catalog, character);
  const form = catalog.forms.get(look.form ?? "");
  const shown = shownParts(catalog, character, form);
  const worn = shown.filter(({ part }) => fitsBody(part, body.id));
  const bare: Owner = catalog.slots.has("body") ? { slot: "", part: undefined } : { slot: "body", part: undefined };
  const inLook = [...look.layers];
  const explain = (layer: Layer, owner: Worn | undefined): ExplainedLayer => {
    const because = whyNot(layer, owner ?? bare, form, worn);
    const isOut =
      because !== undefined || (owner !== undefined && (!isDrawn(body) || sideOf(layer, owner, body) === undefined));
    const drawn = isOut ? undefined : inLook.shift();
    const reason = because ?? (drawn === undefined ? message("for-other-slot", { slot: layer.in ?? "" }) : undefined);
    return {
      part: owner?.part.id,
      slot: owner?.slot,
      group: layer.group,
      image: drawn?.images[0] ?? pictureOf(layer, body),
      depth: drawn && depthIn(drawn, look, moment),
      color: drawn?.recolor && { channel: drawn.recolor.channel, ramp: drawn.recolor.ramp },
      because: reason ?? (drawn && whyNotAt(drawn, look, moment)),
    };
  };
  const explained = [
    ...(form?.layers ?? body.layers).map((layer) => explain(layer, undefined)),
    ...worn.flatMap((each) => each.part.layers.map((layer) => explain(layer, each))),
  ];
  const out = (part: Worn | undefined, layers: readonly Layer[], because: Message) =>
    layers.map(
      (layer): ExplainedLayer => ({
        part: part?.part.id,
        slot: part?.slot,
        group: layer.group,
        image: pictureOf(layer, body),
        depth: undefined,
        color: undefined,
        because,
      }),
    );
  const meshed = (mesh: Mesh, owner: Worn | undefined): ExplainedMesh => {
    const isHere = owner === undefined || (mesh.in ?? owner.slot) === owner.slot;
    const because = isHere
      ? whyNot(mesh, owner ?? bare, form, worn)
      : message("for-other-slot", { slot: mesh.in ?? "" });
    const file = mesh.file.replaceAll("{body}", body.artName);
    return { part: owner?.part.id, slot: owner?.slot, group: mesh.group, file, node: mesh.node, because };
  };
  const meshes = [
    ...body.meshes.map((mesh) => meshed(mesh, undefined)),
    ...worn.flatMap((each) => each.part.meshes.map((mesh) => meshed(mesh, each))),
  ];
  const own =
    form?.layers === undefined ? [] : out(undefined, body.layers, message("form-has-own-art", { form: form.id }));
  const concealed = concealedGear(catalog, character);
  const away = wornParts(catalog, character).flatMap((each) => {
    if (worn.some(({ slot, part }) => slot === each.slot && part === each.part)) return [];
    return out(each, each.part.layers, whyAway(each, character, concealed, form));
  });
  const seen = explained.filter(({ depth }) => depth !== undefined);
  return {
    look,
    layers: [
      ...seen.toSorted((one, other) => (one.depth ?? 0) - (other.depth ?? 0)),
      ...explained.filter(({ depth }) => depth === undefined),
      ...own,
      ...away,
    ],
    meshes,
    points: new Map([...look.points.keys()].map((point) => [point, pointAt(look, point, moment)])),
    forms: formsOf(catalog, body.lineage, look, options.signals ?? {}),
    rules: rulesOf({ catalog, character, context, worn: wornParts(catalog, character) }, character),
  };
}

/** Why a layer is not in the look. */
function whyNot(layer: Layer | Mesh, owner: Owner, form: Form | undefined, worn: readonly Worn[]): Message | undefined {
  if (!isInForm(layer, form)) {
    const { forms } = layer;
    if (forms !== undefined && !forms.includes(form?.id ?? "")) return message("for-other-form", { forms: [...forms] });
    return message("not-in-form", { form: form?.id ?? "" });
  }
  const hider = hiderOf(layer, owner, worn);
  return hider && message("hidden-by", { part: hider.part.id });
}

/** Why nothing of a worn part is in the look. */
function whyAway(
  { slot, part }: Worn,
  { body }: Character,
  concealed: ReadonlyMap<string, string>,
  form: Form | undefined,
): Message {
  const outfit = concealed.get(slot);
  if (outfit !== undefined) return message("concealed-by", { outfit });
  if (form !== undefined && getOwn(form.parts, slot) !== undefined)
    return message("form-shows-another", { form: form.id });
  return message("does-not-fit", { part: part.id, body });
}

/** Why a layer of the look does not show at a moment. */
function whyNotAt(layer: LookLayer, look: Look, moment: Moment): Message | undefined {
  const shows = (each: LookLayer) => celsAt({ ...look, layers: [each] }, moment).length > 0;
  if (shows(layer)) return undefined;
  if (layer.side !== "both" && shows({ ...layer, side: "both" })) return message("for-other-hand");
  if (shownAnimation(look.rig, layer, animationOf(look, moment.animation)) === undefined)
    return message("not-drawn-for", { animation: moment.animation });
  const unseen = [layer.attach?.point, layer.attach?.toward].find(
    (point) => point !== undefined && pointAt(look, point, moment) === undefined,
  );
  return unseen === undefined ? message("nothing-in-frame") : message("point-not-seen", { point: unseen });
}

function depthIn({ depth, depthByFacing }: LookLayer, { rig }: Look, { facing }: Moment): number {
  return depthByFacing.get(facing) ?? depthByFacing.get(rig.facings.get(facing)?.drawnAs ?? "") ?? depth;
}

function formsOf(
  { forms }: Catalog,
  lineage: readonly string[],
  { form, activeForms }: Look,
  signals: Readonly<Record<string, unknown>>,
): readonly ExplainedForm[] {
  return [...forms.values()].flatMap(({ id, bodies, when }): readonly ExplainedForm[] => {
    if (bodies !== undefined && !lineage.some((body) => bodies.has(body))) return [];
    const asked = Object.fromEntries(when.map(({ signal }) => [signal, getOwn(signals, signal)]));
    const state = id === form ? "shown" : activeForms.includes(id) ? "active" : "off";
    return [{ id, state, signals: asked }];
  });
}

function rulesOf(dressed: Dressed, character: Character): readonly ExplainedRule[] {
  const { catalog, context } = dressed;
  const broken = new Set(
    checkLoadout(catalog, character, context).flatMap(({ chain }) =>
      chain.flatMap((fact) => (fact.kind === "rule" ? [fact.number] : [])),
    ),
  );
  return catalog.rules.flatMap((rule): readonly ExplainedRule[] => {
    const state = broken.has(rule.number) ? "broken" : "kept";
    if (state === "kept" && !relatedKind(rule).concerns(rule, dressed)) return [];
    return [{ number: rule.number, state, messages: ruleMessages(rule), message: rule.message }];
  });
}

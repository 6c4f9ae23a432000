import { type Message, message } from "../base/message.ts";
import { getOwn } from "../base/record.ts";
import type { Text } from "../base/text.ts";
import type { Body, Catalog, Form, Layer, Mesh, Point } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import { concealedGear } from "../edits/concealed-gear.ts";
import { checkLoadout } from "../loadout/check-loadout.ts";
import { celsAt, shownAnimation } from "../look/cels-at.ts";
import type { Look, LookLayer, Moment } from "../look/look.ts";
import { animationOf } from "../look/moments.ts";
import { pictureOf } from "../look/picture-of.ts";
import {
  type Absence,
  type LookPlan,
  meshFile,
  type PlannedLayer,
  type PlannedMesh,
  planLook,
} from "../look/plan-look.ts";
import { pointAt } from "../look/point-at.ts";
import { figureOf, type LookOptions, lookOfPlan } from "../look/resolve-look.ts";
import type { Dressed } from "../rules/condition.ts";
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
  const { body, form, shown, active } = figureOf(catalog, character, options);
  const plan = planLook({ catalog, character, body, form, shown });
  const look = lookOfPlan(plan, active);
  const absent = absentLayers(plan, concealedGear(catalog, character));
  const explained = plan.layers.map((layer) => explainLayer(layer, plan, look, moment));
  const seen = explained.filter(({ depth }) => depth !== undefined);
  return {
    look,
    layers: [
      ...seen.toSorted((one, other) => (one.depth ?? 0) - (other.depth ?? 0)),
      ...explained.filter(({ depth }) => depth === undefined),
      ...absent,
    ],
    meshes: plan.meshes.map((mesh) => explainMesh(mesh, plan)),
    points: new Map([...look.points.keys()].map((point) => [point, pointAt(look, point, moment)])),
    forms: formsOf(catalog, body.lineage, look, options.signals ?? {}),
    rules: rulesOf({ catalog, character, context, worn: wornParts(catalog, character) }, character),
  };
}

function explainLayer(planned: PlannedLayer, plan: LookPlan, look: Look, moment: Moment): ExplainedLayer {
  const { drawn, absence } = planned;
  if (drawn === undefined) return absentLayer(planned, plan.body, absenceMessage(planned.piece, absence, plan));
  return {
    ...ownerOf(planned),
    image: drawn.images[0] ?? pictureOf(planned.piece, plan.body),
    depth: depthIn(drawn, look, moment),
    color: drawn.recolor && { channel: drawn.recolor.channel, ramp: drawn.recolor.ramp },
    because: whyNotAt(drawn, look, moment),
  };
}

function explainMesh(planned: PlannedMesh, plan: LookPlan): ExplainedMesh {
  const { piece, absence } = planned;
  return {
    ...ownerOf(planned),
    file: meshFile(piece, plan.body),
    node: piece.node,
    because: absence && absenceMessage(piece, absence, plan),
  };
}

/** The layers of what the plan leaves out altogether: the body's own under a form with art of its own, and parts that are concealed or do not fit. */
function absentLayers(plan: LookPlan, concealed: ReadonlyMap<string, string>): readonly ExplainedLayer[] {
  const { catalog, character, body, form } = plan;
  const own = form?.layers === undefined ? [] : body.layers;
  const isPlanned = ({ slot, part }: Worn) => plan.worn.some((each) => slot === each.slot && part === each.part);
  const away = wornParts(catalog, character).filter((each) => !isPlanned(each));
  return [
    ...own.map((piece) => {
      return absentLayer({ piece, worn: undefined }, body, message("form-has-own-art", { form: form?.id ?? "" }));
    }),
    ...away.flatMap((worn) => {
      const because = whyAway(worn, character, concealed, form);
      return worn.part.layers.map((piece) => absentLayer({ piece, worn }, body, because));
    }),
  ];
}

function absentLayer(planned: Pick<PlannedLayer, "piece" | "worn">, body: Body, because: Message): ExplainedLayer {
  const image = pictureOf(planned.piece, body);
  return { ...ownerOf(planned), image, depth: undefined, color: undefined, because };
}

function ownerOf({ piece, worn }: Pick<PlannedLayer | PlannedMesh, "piece" | "worn">) {
  return { part: worn?.part.id, slot: worn?.slot, group: piece.group };
}

/** Why a layer or a mesh is not in the look. */
function absenceMessage({ forms, in: slot }: Layer | Mesh, absence: Absence, { body, form }: LookPlan): Message {
  switch (absence.kind) {
    case "other-form":
      if (forms !== undefined && !forms.includes(form?.id ?? ""))
        return message("for-other-form", { forms: [...forms] });
      return message("not-in-form", { form: form?.id ?? "" });
    case "hidden":
      return message("hidden-by", { part: absence.by.id });
    case "other-slot":
      return message("for-other-slot", { slot: slot ?? "" });
    case "not-drawn":
      return message("does-not-fit", { part: absence.part.id, body: body.id });
  }
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

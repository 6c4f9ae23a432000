import { getOwn } from "../base/record.ts";
import type { Body, Catalog, Form, Layer, Mesh, Part } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import { fitsBody } from "../rules/fits-body.ts";
import type { Worn } from "../rules/worn.ts";
import { isDrawn } from "./is-drawn.ts";
import type { LookLayer, LookMesh } from "./look.ts";
import { lookLayer } from "./look-layer.ts";
import { recolorFor } from "./recolor-for.ts";

/** What a look is planned from. */
export interface Figured {
  readonly catalog: Catalog;
  readonly character: Character;
  readonly body: Body;
  /** The active form. */
  readonly form: Form | undefined;
  /** What is worn and not concealed; parts that were not made for the body too. */
  readonly shown: readonly Worn[];
}

/** Why a look has no layer or mesh: it belongs to other forms, a worn part hides it, or it is for another slot or a figure of another kind. */
export type Absence =
  | { readonly kind: "other-form" | "other-slot" }
  | { readonly kind: "not-drawn"; readonly part: Part }
  | { readonly kind: "hidden"; readonly by: Part };

/** A layer or a mesh of the body or of something worn, and what the look shows of it, or why nothing. */
export type Planned<Piece, Drawn> = {
  readonly piece: Piece;
  /** `undefined` for the body. */
  readonly worn: Worn | undefined;
} & (
  | { readonly drawn: Drawn; readonly absence?: undefined }
  | { readonly drawn?: undefined; readonly absence: Absence }
);

export type PlannedLayer = Planned<Layer, LookLayer>;
export type PlannedMesh = Planned<Mesh, LookMesh>;

/** All that the body and what is worn have to show, in order: what of it the look has, and why it does not have the rest. */
export interface LookPlan extends Figured {
  /** Of the parts that are shown, those that were made for the body. */
  readonly worn: readonly Worn[];
  readonly layers: readonly PlannedLayer[];
  readonly meshes: readonly PlannedMesh[];
}

/** Decides layer by layer and mesh by mesh what a look has. A look is made of it, and an explanation too. */
export function planLook(figured: Figured): LookPlan {
  const { catalog, character, body, form, shown } = figured;
  const worn = shown.filter(({ part }) => fitsBody(part, body.id));
  const recolor = (channel: string) => recolorFor(catalog, character, channel, getOwn(form?.colors ?? {}, channel));
  const layer = (piece: Layer, by?: Worn): PlannedLayer => {
    const side = by === undefined ? "both" : sideOf(piece, by, body);
    const absence = layerAbsence(piece, by, figured, worn);
    if (absence !== undefined || side === undefined)
      return { piece, worn: by, absence: absence ?? { kind: "other-slot" } };
    const colored = piece.channel === undefined ? undefined : recolor(piece.channel);
    return { piece, worn: by, drawn: { ...lookLayer(catalog, body, piece, by), recolor: colored, side } };
  };
  const mesh = (piece: Mesh, by?: Worn): PlannedMesh => {
    const isHere = by === undefined || (piece.in ?? by.slot) === by.slot;
    const absence: Absence | undefined = isHere ? absenceOf(piece, by, figured, worn) : { kind: "other-slot" };
    if (absence !== undefined) return { piece, worn: by, absence };
    const recolors = [...piece.channels].flatMap(([material, id]) => {
      const colored = recolor(id);
      return colored === undefined ? [] : [[material, colored] as const];
    });
    const drawn = {
      part: by?.part.id,
      file: meshFile(piece, body),
      node: piece.node,
      attach: body.rig.model?.points.get(piece.attach ?? ""),
      recolors: new Map(recolors),
    };
    return { piece, worn: by, drawn };
  };
  return {
    ...figured,
    worn,
    layers: [
      ...(form?.layers ?? body.layers).map((each) => layer(each)),
      ...worn.flatMap((by) => by.part.layers.map((each) => layer(each, by))),
    ],
    meshes: [
      ...body.meshes.map((each) => mesh(each)),
      ...worn.flatMap((by) => by.part.meshes.map((each) => mesh(each, by))),
    ],
  };
}

/** Why a look has no layer of a part in whatever slot: as of any piece, or the body is not drawn. */
function layerAbsence(
  piece: Layer,
  by: Worn | undefined,
  figured: Figured,
  worn: readonly Worn[],
): Absence | undefined {
  const absence = absenceOf(piece, by, figured, worn);
  if (absence !== undefined || by === undefined || isDrawn(figured.body)) return absence;
  return { kind: "not-drawn", part: by.part };
}

/** Why a look has no layer or mesh: it belongs to other forms, or a worn part hides it. */
function absenceOf(
  piece: Layer | Mesh,
  by: Worn | undefined,
  { catalog, form }: Figured,
  worn: readonly Worn[],
): Absence | undefined {
  if (!isInForm(piece, form)) return { kind: "other-form" };
  // Nothing hides a body where a slot of the catalog has its name.
  const slot = by?.slot ?? (catalog.slots.has("body") ? "" : "body");
  const hider = worn.find(
    ({ part }) =>
      part !== by?.part &&
      part.hides.some((hidden) => hidden.slot === slot && (hidden.group ?? piece.group) === piece.group),
  );
  return hider && { kind: "hidden", by: hider.part };
}

/** The file of a mesh on a body. */
export function meshFile({ file }: Mesh, { artName }: Body): string {
  return file.replaceAll("{body}", artName);
}

/** Whether a layer is one of a form, or of none where none is active. */
function isInForm({ forms, notForms }: Layer | Mesh, form: Form | undefined): boolean {
  if (forms !== undefined && (form === undefined || !forms.includes(form.id))) return false;
  return form === undefined || !notForms.includes(form.id);
}

/**
 * Where a layer is shown, `undefined` for nowhere. In a mirrored facing a part drawn for both hands shows its other hand's layer,
 * whose mirror image is this hand: so what is in the left hand stays in the left hand.
 */
function sideOf(layer: Layer, { slot, part }: Worn, { rig }: Body): LookLayer["side"] | undefined {
  if (layer.in === undefined) return "both";
  const twin = rig.twins.get(slot);
  const isForBoth = twin !== undefined && part.layers.some((other) => other.in === twin);
  if (layer.in === slot) return isForBoth ? "drawn" : "both";
  return isForBoth && layer.in === twin ? "mirrored" : undefined;
}

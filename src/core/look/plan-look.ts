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
  const { body, form, shown } = figured;
  const worn = shown.filter(({ part }) => fitsBody(part, body.id));
  const planning = new Planning(figured, worn);
  return {
    ...figured,
    worn,
    layers: [
      ...(form?.layers ?? body.layers).map((layer) => planning.layer(layer, undefined)),
      ...worn.flatMap((each) => each.part.layers.map((layer) => planning.layer(layer, each))),
    ],
    meshes: [
      ...body.meshes.map((mesh) => planning.mesh(mesh, undefined)),
      ...worn.flatMap((each) => each.part.meshes.map((mesh) => planning.mesh(mesh, each))),
    ],
  };
}

class Planning {
  readonly #figured: Figured;
  readonly #worn: readonly Worn[];
  /** The slot that names the body in `hides`; none where a slot of the catalog has its name. */
  readonly #bodySlot: string;

  constructor(figured: Figured, worn: readonly Worn[]) {
    this.#figured = figured;
    this.#worn = worn;
    this.#bodySlot = figured.catalog.slots.has("body") ? "" : "body";
  }

  layer(piece: Layer, worn: Worn | undefined): PlannedLayer {
    const { catalog, body } = this.#figured;
    const absence = this.#absence(piece, worn);
    if (absence !== undefined) return { piece, worn, absence };
    if (worn !== undefined && !isDrawn(body)) return { piece, worn, absence: { kind: "not-drawn", part: worn.part } };
    const side = worn === undefined ? "both" : sideOf(piece, worn, body);
    if (side === undefined) return { piece, worn, absence: { kind: "other-slot" } };
    const recolor = piece.channel === undefined ? undefined : this.#recolor(piece.channel);
    return { piece, worn, drawn: { ...lookLayer(catalog, body, piece, worn), recolor, side } };
  }

  mesh(piece: Mesh, worn: Worn | undefined): PlannedMesh {
    const { body } = this.#figured;
    const isHere = worn === undefined || (piece.in ?? worn.slot) === worn.slot;
    const absence = isHere ? this.#absence(piece, worn) : ({ kind: "other-slot" } as const);
    if (absence !== undefined) return { piece, worn, absence };
    const recolors = [...piece.channels].flatMap(([material, id]) => {
      const recolor = this.#recolor(id);
      return recolor === undefined ? [] : [[material, recolor] as const];
    });
    const drawn = {
      part: worn?.part.id,
      file: meshFile(piece, body),
      node: piece.node,
      attach: body.rig.model?.points.get(piece.attach ?? ""),
      recolors: new Map(recolors),
    };
    return { piece, worn, drawn };
  }

  #absence(piece: Layer | Mesh, worn: Worn | undefined): Absence | undefined {
    if (!isInForm(piece, this.#figured.form)) return { kind: "other-form" };
    const slot = worn?.slot ?? this.#bodySlot;
    const hider = this.#worn.find(
      ({ part }) =>
        part !== worn?.part &&
        part.hides.some((hidden) => hidden.slot === slot && (hidden.group ?? piece.group) === piece.group),
    );
    return hider && { kind: "hidden", by: hider.part };
  }

  #recolor(channel: string) {
    const { catalog, character, form } = this.#figured;
    return recolorFor(catalog, character, channel, getOwn(form?.colors ?? {}, channel));
  }
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

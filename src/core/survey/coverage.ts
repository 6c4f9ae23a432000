import type { Animation, Body, Catalog, Facing, Part, Rig } from "../catalog/model/catalog.ts";
import { shownAnimation } from "../look/cels-at.ts";
import { framesIn } from "../look/layer-art.ts";
import type { Look, LookLayer } from "../look/look.ts";
import { fitsBody } from "../rules/fits-body.ts";
import { bareLook, partsLook } from "./art/art-facts.ts";

/** What is seen of something in one animation and facing: `falls-back` where another animation is shown in its place. */
export interface Coverage {
  readonly animation: string;
  readonly facing: string;
  readonly state: "drawn" | "falls-back" | "missing";
  /** The animations that are shown: of several layers, each may show another. */
  readonly shown: readonly string[];
}

/** What is seen of a part on a body. */
export interface PartCoverage {
  readonly body: string;
  /** `undefined` for the bare body. */
  readonly part: string | undefined;
  /** One for each animation and facing of the rig. */
  readonly moments: readonly Coverage[];
}

/**
 * Finds out what was drawn: each body, and each part on each body that it fits, in every animation and facing. Parts that have nothing to show
 * are left out. What has a mesh is shown whatever the skeleton does.
 *
 * @example
 * surveyCoverage(catalog).filter(({ moments }) => moments.some(({ state }) => state === "missing"))
 */
export function surveyCoverage(catalog: Catalog): readonly PartCoverage[] {
  return [...catalog.bodies.values()].flatMap((body) => [
    coverageOf(body, undefined, bareLook(catalog, body)),
    ...[...catalog.parts.values()]
      .filter((part) => part.layers.length + part.meshes.length > 0 && fitsBody(part, body.id))
      .map((part) => coverageOf(body, part, partsLook(catalog, body, [part]))),
  ]);
}

function coverageOf({ id: body, rig }: Body, part: Part | undefined, { layers, meshes }: Look): PartCoverage {
  const hasMesh = meshes.some((mesh) => mesh.part === part?.id);
  const moments = [...rig.animations.values()].flatMap((animation) =>
    [...rig.facings.values()].map((facing): Coverage => {
      const at = { animation: animation.id, facing: facing.id };
      if (hasMesh && layers.length === 0) return { ...at, state: "drawn", shown: [animation.id] };
      const shown = [...new Set(layers.flatMap((layer) => shownBy(layer, rig, animation, facing) ?? []))];
      if (shown.length === 0) return { ...at, state: "missing", shown };
      return { ...at, state: shown.every((id) => id === animation.id) ? "drawn" : "falls-back", shown };
    }),
  );
  return { body, part: part?.id, moments };
}

/** The animation that a layer shows in a facing; `undefined` where it shows nothing. */
function shownBy(layer: LookLayer, rig: Rig, animation: Animation, facing: Facing): string | undefined {
  const shown = shownAnimation(rig, layer, animation);
  return shown !== undefined && framesIn(layer.art, shown.id, facing) !== undefined ? shown.id : undefined;
}

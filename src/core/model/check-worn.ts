import { artFinding } from "../art/found.ts";
import { message } from "../base/message.ts";
import type { Problem } from "../base/problem.ts";
import { getOwn } from "../base/record.ts";
import type { Body, Catalog, Part } from "../catalog/model/catalog.ts";
import { createCharacter } from "../edits/create-character.ts";
import { checkLoadout } from "../loadout/check-loadout.ts";
import type { Look } from "../look/look.ts";
import { lookOf } from "../look/resolve-look.ts";
import type { Image } from "../raster/image.ts";
import { fitsBody } from "../rules/fits-body.ts";
import { prepareModel } from "./prepare-model.ts";
import { BodyInMotion, facingNear, type WornMoment, wornInMotion } from "./worn-in-motion.ts";

/** What was found of parts that are worn in motion. */
export interface WornReport {
  readonly problems: readonly Problem[];
  /** The worst moment of each finding, by a name made of the body and the part. */
  readonly pictures: ReadonlyMap<string, Image>;
}

/** The share of a part through which skin may be seen, at the seams where it ends. */
const allowed = 0.01;

/**
 * Looks at every part with meshes on every body in every clip: whether skin pokes through it, and whether it tears.
 *
 * @param load - gives the bytes of the files that a look names, by their paths.
 * @throws MantleError as `prepareModel` does: what `checkModels` finds is to be mended first.
 */
export async function checkWorn(
  catalog: Catalog,
  load: (look: Look) => Promise<ReadonlyMap<string, Uint8Array>>,
): Promise<WornReport> {
  const problems: Problem[] = [];
  const pictures = new Map<string, Image>();
  for (const body of catalog.bodies.values()) {
    if (body.rig.model === undefined || body.meshes.length === 0) continue;
    const character = createCharacter(catalog, { body: body.id });
    const bare = lookOf(catalog, character, body, [], []);
    const moving = new BodyInMotion(await prepareModel(bare, await load(bare)));
    for (const part of catalog.parts.values()) {
      if (!isBending(part) || !fitsBody(part, body.id)) continue;
      const worn = lookOf(catalog, character, body, [{ slot: part.slots[0] ?? "", part, issued: true }], []);
      const shown = new Set(worn.meshes.flatMap((mesh) => (mesh.part === undefined ? (mesh.node ?? []) : [])));
      const alone = { ...worn, meshes: worn.meshes.filter((mesh) => mesh.part !== undefined) };
      const { pokes, tears, gap } = wornInMotion(moving, await prepareModel(alone, await load(alone)), shown);
      const note = (kind: "pokes-through" | "mesh-torn", moment: WornMoment) => {
        problems.push(findingOf(kind, body, part, moment));
        pictures.set(`${kind}-${body.id}-${part.id}`, moment.image);
      };
      const isMeant = getOwn(part.allow, "pokes-through") !== undefined;
      if (pokes !== undefined && pokes.amount > allowed && !isMeant) note("pokes-through", pokes);
      if (tears !== undefined) note("mesh-torn", tears);
      const single = { ...character, loadout: { [part.slots[0] ?? ""]: part.id } };
      // What the rules never let be worn alone may hang on what it is worn over.
      if (gap > afloat && checkLoadout(catalog, single).length === 0) problems.push(floating(body, part));
    }
  }
  return { problems, pictures };
}

/** How far from the skin a part floats, for the height of the frame. */
const afloat = 0.03;

function floating(body: Body, part: Part): Problem {
  const rule = JSON.stringify({ if: `part:${part.id}`, needs: "slot:…" });
  const file = part.meshes[0]?.file.replaceAll("{body}", body.artName) ?? "";
  return artFinding(
    file,
    "warning",
    message("mesh-floats", { part: part.id, body: body.id }),
    message("mend-piece-alone", { rule }),
  );
}

/** Whether a part has meshes that follow joints. */
function isBending({ meshes }: Part): boolean {
  return meshes.some(({ attach }) => attach === undefined);
}

function findingOf(
  kind: "pokes-through" | "mesh-torn",
  body: Body,
  part: Part,
  { animation, time, turn, amount }: WornMoment,
): Problem {
  const file = part.meshes[0]?.file.replaceAll("{body}", body.artName) ?? "";
  const where = { part: part.id, body: body.id, animation, time };
  if (kind === "mesh-torn")
    return artFinding(
      file,
      "warning",
      message("mesh-torn", { ...where, times: Math.round(amount) }),
      message("mend-mesh-torn"),
    );
  const facing = facingNear(body, turn);
  const percent = Math.round(amount * 1000) / 10;
  return artFinding(
    file,
    "warning",
    message("pokes-through", { ...where, facing, percent }),
    message("mend-pokes-through"),
  );
}

import type { Document } from "@gltf-transform/core";
import { artFinding } from "../art/found.ts";
import { nameId } from "../art/name-id.ts";
import { message } from "../base/message.ts";
import type { Problem } from "../base/problem.ts";
import { titleFromId } from "../base/text.ts";
import type { Catalog, Rig } from "../catalog/model/catalog.ts";
import { besideModel } from "./beside-model.ts";
import type { Choice, PieceChoice } from "./choice.ts";
import { cutModel, withoutTextures } from "./cut-model.ts";
import { documentOf } from "./documents.ts";
import { findPieces, type Piece, type Pieces } from "./find-pieces.ts";
import { fitJoints } from "./fit-joints.ts";
import { choose } from "./guess-choice.ts";
import type { ModelFile } from "./model-file.ts";
import { rebind } from "./rebind.ts";
import { type Chosen, heightOf, reportAlone, reportFit, reportPiece, reportWhole } from "./report-plan.ts";
import type { SkeletonFit } from "./skeleton-fit.ts";
import { copyModel, writeModel } from "./write-model.ts";

/** What becomes of the meshes of a figure, by their names; `null` leaves one out. */
export type MeshChoices = Readonly<Record<string, PieceChoice | null>>;

export interface ModelPlanOptions {
  /** What becomes of meshes for which the guess is wrong. */
  readonly choices?: MeshChoices;
  /** A rig of the catalog that has a model already, and that model: its skeleton is used. @defaultValue a rig is made */
  readonly rig?: { readonly rig: Rig; readonly model: ModelFile };
  /** Whether a figure that rests in another pose than the rig is brought into that, and bound to it. @defaultValue false */
  readonly rebind?: boolean;
  /** The id of the body that is made, and of the rig. @defaultValue that of the file's name */
  readonly id?: string;
  /** The folder in which files go. @defaultValue `"models"` */
  readonly folder?: string;
  /** The parts and bodies of the catalog that may be replaced. @defaultValue none */
  readonly replaces?: ReadonlySet<string>;
}

/** What an import would make of a figure, before anything is written. */
export interface ModelPlan {
  readonly meshes: readonly PlannedMesh[];
  /** The names of its joints. */
  readonly joints: readonly string[];
  readonly clips: readonly PlannedClip[];
  /**
   * Binary glTF files, and the textures that they share, by their paths in the catalog folder; none when there are errors. Textures are named by
   * their content, so that other figures share them too.
   */
  readonly files: ReadonlyMap<string, Uint8Array>;
  /** What an included file of the catalog says; `undefined` when there are errors. */
  readonly fragment: Fragment | undefined;
  readonly problems: readonly Problem[];
  /** The choices of all pieces: to be written down, and corrected. */
  readonly choices: MeshChoices;
}

export interface Fragment {
  readonly rigs?: Readonly<Record<string, object>>;
  readonly bodies: Readonly<Record<string, object>>;
  readonly parts: Readonly<Record<string, object>>;
}

export interface PlannedMesh {
  /** The name of the node that shows it. */
  readonly name: string;
  readonly triangles: number;
  /** The names of its materials. */
  readonly materials: readonly string[];
  /** How many joints it follows. */
  readonly joints: number;
  /** The joint it hangs on. */
  readonly hangsOn: string | undefined;
  /** What becomes of it; `undefined` where nothing says it. */
  readonly choice: Choice | undefined;
}

export interface PlannedClip {
  /** The animation it is for. */
  readonly animation: string;
  readonly name: string;
  /** Seconds. */
  readonly duration: number;
}

/**
 * Plans how a finished figure is taken apart: a body with its skeleton and clips, and a part for each mesh that is not the body's. Parts
 * with a skin fit every body on the skeleton. Nothing is written.
 *
 * @example
 * const plan = await planModel(catalog, figure)
 * plan.pieces // → [{ name: "Coat", triangles: 812, choice: { part: "coat", slot: "coat", … }, … }, …]
 */
export async function planModel(
  catalog: Catalog,
  figure: ModelFile,
  options: ModelPlanOptions = {},
): Promise<ModelPlan> {
  // Its joints may have to be named and turned as those of the rig.
  const document = options.rig === undefined ? documentOf(figure) : await copyModel(documentOf(figure));
  const found = findPieces(document);
  const id = options.id ?? nameId(figure.name) ?? "figure";
  const choices = found.pieces.map((piece) => ({ piece, choice: choose(catalog, piece, options.choices ?? {}) }));
  const kept = choices.filter(({ choice }) => choice !== null);
  const problems: Problem[] = [];
  reportWhole(figure.name, found, problems);
  for (const { piece, choice } of kept) reportPiece(figure.name, piece, choice ?? undefined, problems);
  reportAlone(figure.name, kept, problems);
  const fit = options.rig && fitRig(figure.name, document, found, { ...options, rig: options.rig }, problems);
  problems.push(...idProblems(figure.name, catalog, { body: id, parts: partsIn(kept), replaces: options.replaces }));
  const clips = clipsOf(document);
  const isWrong = problems.some(({ severity }) => severity === "error");
  const made = isWrong ? undefined : await make({ id, document, found, kept, clips, fit, options });
  return {
    meshes: choices.map(({ piece, choice }) => plannedMesh(piece, choice ?? undefined)),
    joints: found.joints.map((joint) => joint.getName()),
    clips,
    files: made?.files ?? new Map(),
    fragment: made?.fragment,
    problems,
    choices: Object.fromEntries(
      choices.map(({ piece, choice }) => [piece.name, choice === null ? null : entryOf(choice)]),
    ),
  };
}

/** Fits a figure to the skeleton of a rig, and reports how well it does. */
function fitRig(
  file: string,
  document: Document,
  { joints }: Pieces,
  {
    rig: { rig, model },
    rebind: isRebound,
  }: Pick<ModelPlanOptions, "rebind"> & Required<Pick<ModelPlanOptions, "rig">>,
  problems: Problem[],
): SkeletonFit {
  const skeleton = documentOf(model);
  const fit = fitJoints(joints, skeleton);
  const twisted = fit.kind === "posed" && isRebound ? rebind(document, skeleton, fit.names) : undefined;
  reportFit(file, rig.id, fit, twisted, problems);
  return fit;
}

/** The ids that would be given twice, or are taken and may not be replaced. */
function idProblems(
  file: string,
  catalog: Catalog,
  { body, parts, replaces }: { body: string; parts: readonly PartChoice[]; replaces: ReadonlySet<string> | undefined },
): readonly Problem[] {
  const ids = parts.map(({ choice }) => choice.part);
  const clashing = ids.filter((id, at) => ids.indexOf(id) < at);
  const isTaken = (id: string, all: ReadonlyMap<string, unknown>) => all.has(id) && replaces?.has(id) !== true;
  const taken = [
    ...ids.filter((id, at) => ids.indexOf(id) === at && isTaken(id, catalog.parts)),
    ...(isTaken(body, catalog.bodies) ? [body] : []),
  ];
  const namesOf = (id: string) => parts.filter(({ choice }) => choice.part === id).map(({ piece }) => piece.name);
  return [
    ...clashing.map((id) =>
      artFinding(file, "error", message("ids-clash", { id, names: namesOf(id) }), message("rename-one")),
    ),
    ...taken.map((id) => artFinding(file, "error", message("id-taken", { id }), message("say-replace"))),
  ];
}

function clipsOf(document: Document): readonly PlannedClip[] {
  return document
    .getRoot()
    .listAnimations()
    .map((clip) => {
      const times = clip.listSamplers().map((sampler) => sampler.getInput()?.getMax([])[0] ?? 0);
      return { animation: nameId(clip.getName()) ?? "clip", name: clip.getName(), duration: Math.max(0, ...times) };
    });
}

function plannedMesh(piece: Piece, choice: Choice | undefined): PlannedMesh {
  const { name, triangles, materials, follows, hangsOn } = piece;
  return { name, triangles, materials, joints: follows.size, hangsOn: hangsOn?.getName(), choice };
}

/** A choice as the file of choices says it. */
function entryOf(choice: Choice | undefined): PieceChoice {
  if (choice === undefined) return { slot: "" };
  return choice.kind === "region" ? { region: choice.region } : { part: choice.part, slot: choice.slot };
}

/** A piece that becomes a part. */
interface PartChoice {
  readonly piece: Piece;
  readonly choice: Extract<Choice, { kind: "part" }>;
}

function partsIn(kept: readonly Chosen[]): readonly PartChoice[] {
  return kept.flatMap(({ piece, choice }) => (choice?.kind === "part" ? [{ piece, choice }] : []));
}

interface Making {
  readonly id: string;
  readonly document: Document;
  readonly found: Pieces;
  readonly kept: readonly Chosen[];
  readonly clips: readonly PlannedClip[];
  readonly fit: SkeletonFit | undefined;
  readonly options: ModelPlanOptions;
}

/** Frames a second, of a rig that is made for a figure. */
const fps = 12;

async function make({ id, document, found, kept, clips, fit, options }: Making): Promise<{
  readonly files: ReadonlyMap<string, Uint8Array>;
  readonly fragment: Fragment;
}> {
  if (fit?.kind === "renamed" || fit?.kind === "posed")
    for (const joint of found.joints) joint.setName(fit.names.get(joint.getName()) ?? joint.getName());
  const root = options.folder ?? "models";
  const folder = `${root}/${id}`;
  const { written, textures } = withoutTextures(await writeModel(document), "../textures");
  const files = new Map([...textures].map(([uri, bytes]) => [besideModel(`${folder}/`, uri), bytes]));
  const cut = (name: string, nodes: readonly string[], more: { clips?: boolean; hangsOn?: string } = {}) => {
    const path = `${folder}/${name}.glb`;
    const { clips: withClips = false, hangsOn } = more;
    files.set(path, cutModel(document, written, { nodes: new Set(nodes), clips: withClips, hangsOn }));
    return path;
  };
  const skin = kept.flatMap(({ piece, choice }) => (choice?.kind === "region" ? [{ piece, choice }] : []));
  const points = new Map(
    kept.flatMap(({ piece: { hangsOn } }) =>
      hangsOn === undefined ? [] : [[nameId(hangsOn.getName()) ?? "joint", hangsOn.getName()]],
    ),
  );
  const skeleton = options.rig === undefined ? cut("skeleton", [], { clips: true }) : undefined;
  const body =
    skin.length === 0
      ? undefined
      : cut(
          "body",
          skin.map(({ piece }) => piece.node.getName()),
        );
  const made = new Map<string, object>();
  for (const { piece, choice } of partsIn(kept)) {
    const hangsOn = piece.hangsOn?.getName();
    const file = cut(choice.part, [piece.node.getName()], hangsOn === undefined ? {} : { hangsOn });
    const attach = hangsOn === undefined ? {} : { attach: pointOf(hangsOn, options.rig?.rig) };
    const { part, slot, title, channels } = choice;
    made.set(part, { title, slot, meshes: [{ file, ...attach, ...(channels === undefined ? {} : { channels }) }] });
  }
  const rig = options.rig?.rig.id ?? id;
  const rigs =
    skeleton === undefined
      ? {}
      : { rigs: { [id]: rigOf(skeleton, { clips, points, height: heightOf(found.pieces) }) } };
  const bare = skin.map(({ piece, choice: { region, channels } }) => ({
    file: body,
    node: piece.node.getName(),
    group: region,
    ...(channels === undefined ? {} : { channels }),
  }));
  const bodies = { [id]: { title: titleFromId(id), rig, ...(bare.length === 0 ? {} : { model: bare }) } };
  return { files, fragment: { ...rigs, bodies, parts: Object.fromEntries(made) } };
}

/** The point of a rig that is on a joint, or the one that is made for it. */
function pointOf(joint: string, rig: Rig | undefined): string {
  const known = [...(rig?.model?.points ?? [])].find(([, place]) => place.joint === joint);
  return known?.[0] ?? nameId(joint) ?? "joint";
}

interface Rigged {
  readonly clips: readonly PlannedClip[];
  readonly points: ReadonlyMap<string, string>;
  /** Of the figure, in units of the model. */
  readonly height: number;
}

function rigOf(file: string, { clips, points, height }: Rigged): object {
  const animations = clips.map(({ animation, duration }) => [
    animation,
    { frames: Math.max(1, Math.round(duration * fps)), fps },
  ]);
  const named = clips
    .filter(({ animation, name }) => animation !== name)
    .map(({ animation, name }) => [animation, name]);
  return {
    frame: { width: 256, height: 320 },
    origin: [128, 300],
    facings: ["south", "west", "north", { id: "east", mirror: "west" }],
    animations: animations.length === 0 ? { still: { frames: 1, fps: 1 } } : Object.fromEntries(animations),
    model: {
      file,
      // The figure fills the frame, with some room above.
      scale: Number((260 / Math.max(height, 1e-6)).toPrecision(3)),
      ...(named.length === 0 ? {} : { clips: Object.fromEntries(named) }),
      ...(points.size === 0 ? {} : { points: Object.fromEntries(points) }),
    },
  };
}

import type { Document, Node } from "@gltf-transform/core";
import { artFinding } from "../art/found.ts";
import { message } from "../base/message.ts";
import type { Problem } from "../base/problem.ts";
import type { Body, Catalog, Mesh } from "../catalog/model/catalog.ts";
import { skeletonOf } from "../look/skeleton-of.ts";
import { fitsBody } from "../rules/fits-body.ts";
import { documentOf } from "./documents.ts";
import { fitJoints } from "./fit-joints.ts";
import type { ModelReading } from "./read-model.ts";

/** Gives a model by its path in the catalog folder; `undefined` for one that is not there. */
export type LoadModel = (file: string) => Promise<ModelReading | undefined>;

/**
 * Finds what is wrong with the models that a catalog names: files that are missing or cannot be read, clips, joints and nodes that are not in
 * them, and meshes whose joints the skeleton does not have, or has in another pose. One file gives one finding of a kind.
 */
export async function checkModels(catalog: Catalog, load: LoadModel): Promise<readonly Problem[]> {
  const check = new ModelCheck(load);
  for (const body of catalog.bodies.values()) {
    if (body.rig.model === undefined) continue;
    await check.skeleton(body);
    for (const mesh of body.meshes) await check.mesh(body.id, mesh, body);
    for (const part of catalog.parts.values())
      if (fitsBody(part, body.id)) for (const mesh of part.meshes) await check.mesh(part.id, mesh, body);
  }
  return [...check.problems.values()];
}

class ModelCheck {
  /** By what they are about. */
  readonly problems = new Map<string, Problem>();
  readonly #load: LoadModel;
  readonly #known = new Map<string, Promise<Document | undefined>>();

  constructor(load: LoadModel) {
    this.#load = load;
  }

  async skeleton(body: Body): Promise<void> {
    const { id, model, animations } = body.rig;
    const file = skeletonOf(body);
    if (model === undefined || file === undefined) return;
    const document = await this.#open(file, id);
    if (document === undefined) return;
    const clips = new Set(
      document
        .getRoot()
        .listAnimations()
        .map((clip) => clip.getName()),
    );
    for (const { id: animation, otherwise } of animations.values()) {
      const clip = model.clips.get(animation) ?? animation;
      if (!clips.has(clip) && otherwise === undefined)
        this.#note(file, "warning", message("clip-missing", { animation, clip }), message("mend-clip-missing"));
    }
    const joints = namesIn(document);
    for (const [point, { joint }] of model.points)
      if (!joints.has(joint))
        this.#note(file, "error", message("joint-missing", { point, joint }), message("mend-joint-missing"));
  }

  async mesh(owner: string, { file: path, node, attach }: Mesh, body: Body): Promise<void> {
    const { rig, artName } = body;
    const file = path.replaceAll("{body}", artName);
    const [document, skeleton] = [await this.#open(file, owner), await this.#open(skeletonOf(body) ?? "", rig.id)];
    if (document === undefined || skeleton === undefined) return;
    const all = document
      .getRoot()
      .listNodes()
      .filter((each) => each.getMesh() !== null);
    const shown = node === undefined ? all : all.filter((each) => each.getName() === node);
    if (shown.length === 0) {
      const finding = message("mesh-missing", { owner, mesh: node ?? "" });
      this.#note(file, "error", finding, message("mend-mesh-missing", { meshes: all.map((each) => each.getName()) }));
    }
    for (const each of shown) this.#fit(each, { file, owner, attach, rig: rig.id }, skeleton);
  }

  #fit(node: Node, { file, owner, attach, rig }: MeshPlace, skeleton: Document): void {
    const skin = node.getSkin();
    const mesh = node.getName();
    if (skin === null) {
      if (attach === undefined)
        this.#note(file, "warning", message("mesh-loose", { owner, mesh }), message("mend-mesh-loose"));
      return;
    }
    const fit = fitJoints(skin.listJoints(), skeleton);
    if (fit.kind === "missing")
      this.#note(
        file,
        "error",
        message("mesh-misfit", { owner, rig, joints: fit.joints }),
        message("mend-mesh-misfit"),
      );
    else if (fit.kind === "renamed")
      this.#note(
        file,
        "error",
        message("mesh-misfit", { owner, rig, joints: [...fit.names.keys()] }),
        message("mend-mesh-misfit"),
      );
    else if (fit.kind === "posed") {
      const [degrees, units] = [Math.round(fit.degrees * 10) / 10, Math.round(fit.units * 1000) / 1000];
      const finding = message("skeleton-posed", { rig, joint: fit.joint, degrees, units });
      this.#note(file, "warning", finding, message("mend-skeleton-posed"));
    }
  }

  async #open(file: string, owner: string): Promise<Document | undefined> {
    const known = this.#known.get(file);
    if (known !== undefined) return known;
    const opening = this.#load(file).then((reading) => {
      if (reading === undefined)
        this.#note(file, "error", message("model-missing", { owner }), message("mend-model-missing"));
      for (const problem of reading?.problems ?? [])
        this.problems.set(`${problem.code} ${file} ${problem.place.pointer}`, problem);
      return reading?.model && documentOf(reading.model);
    });
    this.#known.set(file, opening);
    return opening;
  }

  #note(
    file: string,
    severity: Problem["severity"],
    finding: Parameters<typeof artFinding>[2],
    fix: Parameters<typeof artFinding>[3],
  ): void {
    const key = `${finding.code} ${file} ${JSON.stringify(finding.params)}`;
    if (fix !== undefined) this.problems.set(key, artFinding(file, severity, finding, fix));
  }
}

interface MeshPlace {
  readonly file: string;
  readonly owner: string;
  readonly attach: string | undefined;
  readonly rig: string;
}

function namesIn(document: Document): ReadonlySet<string> {
  return new Set(
    document
      .getRoot()
      .listNodes()
      .map((node) => node.getName()),
  );
}

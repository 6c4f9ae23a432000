import { readFile } from "node:fs/promises";
import { basename, dirname, join } from "node:path";
import type { Colors } from "picocolors/types.js";
import { nameId } from "../core/art/name-id.ts";
import { MantleError, type Problem } from "../core/base/problem.ts";
import { requireKnown } from "../core/base/require-known.ts";
import type { Catalog } from "../core/catalog/model/catalog.ts";
import { skeletonOf } from "../core/look/skeleton-of.ts";
import { modelSheet } from "../core/model/model-sheet.ts";
import {
  type MeshChoices,
  type ModelPlan,
  type ModelPlanOptions,
  type PlannedMesh,
  planModel,
} from "../core/model/plan-model.ts";
import { encodePng } from "../core/raster/png/encode-png.ts";
import { isInside } from "../node/catalog-folder.ts";
import { reasonOf } from "../node/file-error.ts";
import { inspectCatalog, loadCatalog } from "../node/load-catalog.ts";
import { readModelFile } from "../node/read-model-file.ts";
import { type NewFile, writeFiles } from "../node/write-files.ts";
import type { ImportOptions } from "./import-options.ts";
import { outcome, placeOf } from "./import-outcome.ts";
import { type Answer, counted, problemData, problemLines } from "./output.ts";
import { writeOutput } from "./write-output.ts";

/** `mantle import model`: a body and parts from a finished figure; a plan first, and files when they are asked for. */
export async function importModel(file: string, options: ImportOptions, colors: Colors): Promise<Answer> {
  const { to, id, folder = "models", replace = false } = options;
  if (!isInside(folder))
    throw new MantleError("bad-call", `"${folder}" is no folder of the catalog. Name one inside it with --folder.`);
  if (options.rebind && options.rig === undefined)
    throw new MantleError("bad-call", "--rebind brings a figure into the pose of a rig. Say which, with --rig.");
  const catalog = await loadCatalog(to, { art: "none" });
  const reading = await readModelFile(dirname(file), basename(file));
  if (reading === undefined) throw new MantleError("unreadable-file", `There is no file ${file}.`);
  const { model, problems } = reading;
  if (model === undefined) return refused(problems, colors);
  const place = await placeOf(to, file);
  const known = options.choices === undefined ? undefined : await readChoices(options.choices);
  const rig = options.rig === undefined ? undefined : await rigWith(catalog, options.rig, to);
  const plan = await planModel(catalog, model, {
    ...(id === undefined ? {} : { id }),
    ...(known === undefined ? {} : { choices: known }),
    ...(rig === undefined ? {} : { rig }),
    rebind: options.rebind ?? false,
    folder,
    replaces: replace ? place.holds : new Set(),
  });
  const isNew = options.choices !== undefined && known === undefined;
  if (options.choices !== undefined && isNew)
    await writeOutput(options.choices, `${JSON.stringify(plan.choices, null, 2)}\n`);
  const all = [...problems, ...plan.problems];
  // What is written has been seen, or can be seen in the game.
  const sheet =
    options.write === true ? undefined : join(options.out, `${id ?? nameId(basename(file)) ?? "figure"}.png`);
  if (sheet !== undefined) await writeOutput(sheet, encodePng(await modelSheet(model, plan)));
  const errors = all.filter(({ severity }) => severity === "error").length;
  const written = errors > 0 ? [] : filesOf(plan, place.path);
  const isWritten = options.write === true && written.length > 0;
  if (isWritten) await writeFiles(to, written, { replace });
  const after = isWritten ? (await inspectCatalog(to)).problems : [];
  return {
    lines: [
      ...describe(plan, id ?? basename(file)),
      ...problemLines(all, colors),
      ...(isNew ? [`Meshes: ${options.choices}, as they were guessed. Correct them, and import again.`] : []),
      ...(sheet === undefined ? [] : [`Contact sheet: ${sheet}`]),
      ...outcome({ errors, isWritten, written, to }, colors),
      ...problemLines(after, colors),
    ],
    data: {
      meshes: plan.meshes,
      joints: plan.joints,
      clips: plan.clips,
      problems: problemData(all),
      sheets: sheet === undefined ? [] : [sheet],
      files: written.map(({ path }) => path),
      written: isWritten,
      after: problemData(after),
    },
    exitCode: errors > 0 || after.some(({ severity }) => severity === "error") ? 1 : 0,
  };
}

function refused(problems: readonly Problem[], colors: Colors): Answer {
  return {
    lines: [...problemLines(problems, colors), colors.red("Nothing was written.")],
    data: { meshes: [], problems: problemData(problems), files: [], written: false },
    exitCode: 1,
  };
}

async function readChoices(file: string): Promise<MeshChoices | undefined> {
  let text: string;
  try {
    text = await readFile(file, "utf8");
  } catch (error) {
    if (Object(error).code === "ENOENT") return undefined;
    throw new MantleError("unreadable-file", `${file} cannot be read: ${reasonOf(error)}.`);
  }
  try {
    const value: unknown = JSON.parse(text);
    if (typeof value === "object" && value !== null && !Array.isArray(value)) return value as MeshChoices;
  } catch {
    // Said below.
  }
  throw new MantleError(
    "bad-call",
    `${file} is no JSON object of meshes: { "Coat": { "part": "coat", "slot": "coat" } }.`,
  );
}

async function rigWith(catalog: Catalog, id: string, to: string): Promise<NonNullable<ModelPlanOptions["rig"]>> {
  const rig = requireKnown("rig", id, catalog.rigs);
  if (rig.model === undefined)
    throw new MantleError("no-model", `The rig "${id}" has no model. Leave --rig out, and a rig is made.`);
  // Where each body has a skeleton of its own, they have the same joints.
  const file = [...catalog.bodies.values()].filter((body) => body.rig === rig).map(skeletonOf)[0] ?? rig.model.file;
  const model = (await readModelFile(to, file))?.model;
  if (model === undefined) throw new MantleError("unreadable-model", `${file} is no model that can be read.`);
  return { rig, model };
}

function filesOf({ files, fragment }: ModelPlan, path: string | undefined): readonly NewFile[] {
  if (path === undefined)
    throw new MantleError("bad-call", 'catalog.json includes no folder of files. Add "parts/*.json" to its "include".');
  const models = [...files].map(([model, content]) => ({ path: model, content, isShared: !model.endsWith(".glb") }));
  return [...models, { path, content: `${JSON.stringify(fragment, null, 2)}\n` }];
}

/** The body with its meshes, and then the parts, each in a line. */
function describe({ meshes, joints, clips }: ModelPlan, name: string): readonly string[] {
  const moves = clips
    .map(({ animation, duration }) => `${animation} (${Math.round(duration * 100) / 100} s)`)
    .join(", ");
  const lines = (kind: "region" | "part" | undefined) =>
    meshes.filter(({ choice }) => choice?.kind === kind).map(describePiece);
  const skin = lines("region");
  return [
    `${name}  a body of ${counted(skin.length, "mesh", "meshes")}; ${counted(joints.length, "joint")}; ${moves || "no clips"}`,
    ...skin.map((line) => `  ${line}`),
    ...lines("part"),
    ...lines(undefined),
  ];
}

function describePiece({ name, triangles, joints, hangsOn, materials, choice }: PlannedMesh): string {
  const bends = hangsOn === undefined ? counted(joints, "joint") : `on ${hangsOn}`;
  const what = `${counted(triangles, "triangle")}, ${bends}, ${materials.join(" ")}`;
  if (choice === undefined) return `${name}: ${what}`;
  return choice.kind === "region"
    ? `${choice.region}  ${name}: ${what}`
    : `${choice.part}  ${choice.title}, in ${choice.slot}: ${what}`;
}

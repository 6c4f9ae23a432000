import { join } from "node:path";
import type { Colors } from "picocolors/types.js";
import { contactSheet } from "../core/art/contact-sheet.ts";
import type { FoundPart } from "../core/art/found.ts";
import { titleOf } from "../core/art/name-id.ts";
import { type ImportPlan, planImport } from "../core/art/plan-import.ts";
import { MantleError } from "../core/base/problem.ts";
import { requireKnown } from "../core/base/require-known.ts";
import type { Catalog, Rig } from "../core/catalog/model/catalog.ts";
import { createCharacter } from "../core/edits/create-character.ts";
import { resolveLook } from "../core/look/resolve-look.ts";
import { encodePng } from "../core/raster/png/encode-png.ts";
import { isInside } from "../node/catalog-folder.ts";
import { inspectCatalog, loadCatalog } from "../node/load-catalog.ts";
import { loadImages } from "../node/load-images.ts";
import { type NewFile, writeFiles } from "../node/write-files.ts";
import { type Figure, otherSpaces, readArtFiles } from "./import-art.ts";
import { defineOptions, type ImportOptions } from "./import-options.ts";
import { outcome, placeOf } from "./import-outcome.ts";
import { type Answer, counted, type DefineCommand, problemData, problemLines } from "./output.ts";
import { writeOutput } from "./write-output.ts";

/** `mantle import`: parts of a catalog from what artists hand over; a plan first, and files when they are asked for. */
export const defineImport: DefineCommand = (command, terminal) => {
  defineOptions(command);
  command
    .addHelpText(
      "after",
      '\nExample:\n  $ mantle import "Storm Hat.png" --to saltmarsh --slot hat --depth 84\n  storm-hat  Storm Hat, in hat: 54 frames …\n  Nothing was written. Run again with --write to write 3 files into saltmarsh.',
    )
    .action(async (files: readonly string[], options: ImportOptions) => {
      const isModel = files[0] === "model";
      const [figure = "", ...others] = isModel ? files.slice(1) : files;
      const isFigure = /\.(glb|gltf)$/i.test(figure);
      if (isModel && !isFigure)
        throw new MantleError("bad-call", "Name the file of a figure, .glb or .gltf: mantle import model courier.glb");
      if (isFigure && others.length > 0)
        throw new MantleError("bad-call", "Figures are taken apart one by one. Name one file.");
      const { importModel } = await import("./import-model.ts");
      const answer = isFigure
        ? importModel(figure, options, terminal.colors)
        : importArt(files, options, terminal.colors);
      return terminal.answer(await answer, options);
    });
};

async function importArt(files: readonly string[], options: ImportOptions, colors: Colors): Promise<Answer> {
  const { to, slot, depth, channel, folder = "art" } = options;
  if (!isInside(folder))
    throw new MantleError("bad-call", `"${folder}" is no folder of the catalog. Name one inside it with --folder.`);
  const catalog = await loadCatalog(to);
  const rig = rigOf(catalog, options.rig);
  const on = await figureOf(catalog, rig, options);
  const found = await readArtFiles(files, { catalog, rig, on }, options);
  const place = await placeOf(to, files[0] ?? "");
  const reported = [...found.problems, ...(await otherSpaces(files))];
  const plan = planImport(
    catalog,
    { parts: found.parts, problems: reported },
    {
      rig,
      ...(slot === undefined ? {} : { slot }),
      ...(depth === undefined ? {} : { depth }),
      ...(channel === undefined ? {} : { channel: requireKnown("channel", channel, catalog.channels).id }),
      folder,
      replaces: options.replace === true ? place.holds : new Set(),
    },
  );
  const errors = plan.problems.filter(({ severity }) => severity === "error").length;
  // What is written has been seen, or can be seen in the game.
  const sheets = options.write === true ? [] : await drawSheets(plan, found.parts, { rig, on, out: options.out });
  const written = filesOf(plan, place.path);
  const isWritten = options.write === true && errors === 0 && written.length > 0;
  if (isWritten) await writeFiles(to, written, { replace: options.replace === true });
  const after = isWritten ? (await inspectCatalog(to)).problems : [];
  return {
    lines: [
      ...plan.parts.flatMap((part) => describePart(part)),
      ...problemLines(plan.problems, colors),
      ...sheets.map((sheet) => `Contact sheet: ${sheet}`),
      ...outcome({ errors, isWritten, written, to }, colors),
      ...problemLines(after, colors),
    ],
    data: {
      parts: plan.parts.map(({ id, title, slot: own, layers }) => ({
        id,
        title,
        slot: own,
        layers: layers.map(({ path, tablePath, image }) => ({
          path,
          tablePath,
          width: image.width,
          height: image.height,
        })),
      })),
      problems: problemData(plan.problems),
      sheets,
      files: written.map(({ path }) => path),
      written: isWritten,
      after: problemData(after),
    },
    exitCode: errors > 0 || after.some(({ severity }) => severity === "error") ? 1 : 0,
  };
}

function rigOf(catalog: Catalog, id: string | undefined): Rig {
  if (id !== undefined) return requireKnown("rig", id, catalog.rigs);
  const [only, another] = catalog.rigs.values();
  if (only === undefined || another !== undefined)
    throw new MantleError("bad-call", `The catalog has ${catalog.rigs.size} rigs. Say which with --rig.`);
  return only;
}

async function figureOf(catalog: Catalog, rig: Rig, { on, to }: ImportOptions): Promise<Figure | undefined> {
  const body =
    on === undefined
      ? [...catalog.bodies.values()].find((each) => each.rig === rig)
      : requireKnown("body", on, catalog.bodies);
  if (body === undefined) return undefined;
  const look = resolveLook(catalog, createCharacter(catalog, { body: body.id }));
  const bare = { ...look, layers: look.layers.filter(({ part }) => part === undefined) };
  return { look: bare, images: await loadImages(to, [bare]) };
}

async function drawSheets(
  plan: ImportPlan,
  found: readonly FoundPart[],
  { rig, on, out }: { readonly rig: Rig; readonly on: Figure | undefined; readonly out: string },
): Promise<readonly string[]> {
  const parts = plan.parts.length > 0 ? plan.parts.map((part) => ({ ...part.found, name: part.id })) : found;
  const written: string[] = [];
  for (const { id, mirrored } of rig.facings.values()) {
    const isOwn = parts.some(({ layers }) => layers.some(({ frames }) => frames.some(({ facing }) => facing === id)));
    const sheet =
      mirrored && !isOwn ? undefined : contactSheet(parts, id, { rig, ...(on === undefined ? {} : { on }) });
    if (sheet === undefined) continue;
    const path = join(out, `${id}.png`);
    await writeOutput(path, encodePng(sheet));
    written.push(path);
  }
  return written;
}

function filesOf(plan: ImportPlan, fragmentPath: string | undefined): readonly NewFile[] {
  if (plan.fragment === undefined) return [];
  if (fragmentPath === undefined)
    throw new MantleError("bad-call", 'catalog.json includes no folder of files. Add "parts/*.json" to its "include".');
  const pictures = plan.parts.flatMap(({ layers }) =>
    layers.flatMap(({ path, image, tablePath, table }) => [
      { path, content: encodePng(image) },
      { path: tablePath, content: `${JSON.stringify(table)}\n` },
    ]),
  );
  return [...pictures, { path: fragmentPath, content: `${JSON.stringify(plan.fragment, null, 2)}\n` }];
}

function describePart({ id, title, slot, found, layers }: ImportPlan["parts"][number]): readonly string[] {
  const frames = found.layers.flatMap((layer) => layer.frames);
  const byAnimation = new Map<string, Set<string>>();
  for (const { animation = "still", facing = "any" } of frames) {
    const facings = byAnimation.get(animation) ?? new Set<string>();
    byAnimation.set(animation, facings.add(facing));
  }
  const drawn = [...byAnimation].map(([animation, facings]) => `${animation} (${[...facings].join(" ")})`).join(", ");
  return [
    `${id}  ${titleOf(title)}, in ${slot}: ${counted(frames.length, "frame")}: ${drawn}`,
    ...layers.map(({ path, image }) => `  ${path}, ${image.width}×${image.height} pixels`),
  ];
}

import type { Row } from "./measure.ts";
import { atlasFrame } from "./rows/atlas-frame.ts";
import { check } from "./rows/check.ts";
import { checkArt } from "./rows/check-art.ts";
import { checkGrowth } from "./rows/check-growth.ts";
import { checkPlain } from "./rows/check-plain.ts";
import { cliStart } from "./rows/cli-start.ts";
import { composePlain, composeSharp, composeSkia } from "./rows/compose.ts";
import { crowd } from "./rows/crowd.ts";
import { importGaps, importOra } from "./rows/import-art.ts";
import { importCore } from "./rows/import-core.ts";
import { judge } from "./rows/judge.ts";
import { options20k, roll20k } from "./rows/large-catalogs.ts";
import { load } from "./rows/load.ts";
import { loadFolder } from "./rows/load-folder.ts";
import { loadGrowth } from "./rows/load-growth.ts";
import { memoryRows } from "./rows/memory.ts";
import { assemble, split, swap3d } from "./rows/models.ts";
import { crowd3d, crowd3dMemory, raster3d } from "./rows/models-drawn.ts";
import { moment } from "./rows/moment.ts";
import { openPacked, openPackedRequests } from "./rows/open-packed.ts";
import { options } from "./rows/options.ts";
import { packedDraw, packedMemory } from "./rows/packed-draw.ts";
import { packsRow } from "./rows/packs.ts";
import { pairwise, pairwiseLarge } from "./rows/pairwise.ts";
import { crowdPixi, crowdPixiMemory, exchange } from "./rows/pixi.ts";
import { postgresStoreRow } from "./rows/postgres-store.ts";
import { recolor } from "./rows/recolor.ts";
import { repair, repairCold } from "./rows/repair.ts";
import { repair20k, repairDemo, repairHard } from "./rows/repair-hard.ts";
import { roll } from "./rows/roll.ts";
import { saveFile } from "./rows/save-file.ts";
import { screen } from "./rows/screen.ts";
import { serverEdit, serverEditSlowest, serverPortrait } from "./rows/server.ts";
import { session } from "./rows/session.ts";

/** Every promise, in the order in which they are measured. */
export const rows: readonly Row[] = [
  saveFile,
  postgresStoreRow,
  serverEdit,
  serverEditSlowest,
  serverPortrait,
  check,
  checkPlain,
  checkGrowth,
  judge,
  options,
  options20k,
  repair,
  repairCold,
  repairDemo,
  repairHard,
  repair20k,
  roll,
  roll20k,
  packsRow,
  pairwise,
  pairwiseLarge,
  load,
  loadGrowth,
  loadFolder,
  cliStart,
  importCore,
  composeSkia,
  composeSharp,
  composePlain,
  recolor,
  packedDraw,
  packedMemory,
  importOra,
  importGaps,
  checkArt,
  split,
  assemble,
  swap3d,
  raster3d,
  crowd3d,
  crowd3dMemory,
  moment,
  atlasFrame,
  crowd,
  crowdPixi,
  crowdPixiMemory,
  exchange,
  openPacked,
  openPackedRequests,
  screen,
  session,
  ...memoryRows,
];

import type { Command } from "commander";
import { addBake } from "./bake.ts";
import { addCheck } from "./check.ts";
import { addDraw } from "./draw.ts";
import { addFix } from "./fix.ts";
import { addReceive } from "./receive.ts";
import { addRoll } from "./roll.ts";
import { addSaves } from "./saves.ts";
import { addShare } from "./share.ts";
import { addWhy } from "./why.ts";

/** Every command, in the order people work. */
export const commands: readonly ((program: Command) => void)[] = [
  addCheck,
  addRoll,
  addDraw,
  addBake,
  addWhy,
  addFix,
  addShare,
  addReceive,
  addSaves,
];

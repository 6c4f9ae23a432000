import type { Row } from "./measure.ts";
import { check } from "./rows/check.ts";
import { checkGrowth } from "./rows/check-growth.ts";
import { options } from "./rows/options.ts";

/** Every promise, in the order in which they are measured. */
export const rows: readonly Row[] = [check, checkGrowth, options];

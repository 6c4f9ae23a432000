import { titleFromId } from "../../base/text.ts";
import type { Stat } from "../model/catalog.ts";
import type { Reader } from "./reader.ts";
import type { Sources } from "./source.ts";

type StatEntry = Sources["stats"] extends ReadonlyMap<string, infer E> ? E : never;

/** Reads a stat. Reports bounds that leave nothing. */
export function readStat(entry: StatEntry, { findings }: Reader): Stat {
  const { id, value } = entry;
  const { title = titleFromId(id), min = Number.NEGATIVE_INFINITY, max = Number.POSITIVE_INFINITY } = value;
  if (min > max) findings.report(entry, ["min"], "empty-bounds", { stat: id, min, max });
  return { id, title, min, max };
}

import { titleFromId } from "../../base/text.ts";
import type { Channel, Ramp } from "../model/catalog.ts";
import type { RampSource } from "../schema/schema.ts";
import { readColor } from "./numbers.ts";
import type { Reader } from "./reader.ts";
import type { Entry, Sources } from "./source.ts";

export function readRamp({ id, value }: Entry<RampSource>): Ramp {
  const { title, colors } = "colors" in value ? value : { title: undefined, colors: value };
  return { id, title: title ?? titleFromId(id), colors: colors.map(readColor) };
}

type ChannelEntry = Sources["channels"] extends ReadonlyMap<string, infer E> ? E : never;

/** Reads a channel. Reports ramps that are not there, and a default that is not offered. */
export function readChannel(entry: ChannelEntry, { sources, findings }: Reader): Channel {
  const { id, value } = entry;
  const { title = titleFromId(id), ramps, default: initial, key, match = "key", custom = false } = value;
  for (const [number, ramp] of ramps.entries()) findings.known(entry, ["ramps", number], "ramp", ramp, sources.ramps);
  if (!ramps.includes(initial)) {
    findings.report(entry, ["default"], "default-not-offered", { channel: id, ramp: initial, ramps });
  }
  return { id, title, ramps, default: initial, key: key.map(readColor), match, custom };
}

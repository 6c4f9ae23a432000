import { type Problem, pointerTo } from "../../base/problem.ts";
import { getOwn } from "../../base/record.ts";
import type { Point, PointTable } from "../model/drawn.ts";
import type { PointsSource, RigSource } from "../schema/art-schema.ts";
import { drawnFacings } from "./drawn-facings.ts";
import { adviceOn, Findings } from "./findings.ts";
import { inherited, lineage } from "./lineage.ts";
import type { PointImage } from "./point-images.ts";
import { readMarkers } from "./read-markers.ts";
import type { Entry, Sources } from "./source.ts";

/** The points of a body, and the picture they were read from. */
export interface BodyPoints {
  readonly table: PointTable;
  readonly markers: string | undefined;
}

/** The points of every body, from its own markers or numbers, or those of the body it extends, or of its rig. */
export function pointsOfBodies(
  sources: Sources,
  pictures: ReadonlyMap<string, PointImage>,
): { readonly points: ReadonlyMap<string, BodyPoints>; readonly problems: readonly Problem[]; readonly more: number } {
  const findings = new Findings();
  const problems: Problem[] = [];
  const points = new Map<string, BodyPoints>();
  for (const { id } of sources.bodies.values()) {
    const found = pointsFor(id, sources);
    if (found === undefined) continue;
    const { entry, rig, source } = found;
    if ("frames" in source) {
      points.set(id, { table: framedTable(entry, rig, source.frames, findings), markers: undefined });
      continue;
    }
    const path = source.image.replaceAll("{body}", sources.bodies.get(id)?.value.artFrom ?? id);
    const picture = pictures.get(path);
    if (picture === undefined) {
      points.set(id, { table: new Map(), markers: path });
      problems.push(notHandedIn(path, entry));
    } else {
      const read = readMarkers(path, picture, source.colors, rig);
      points.set(id, { table: read.table, markers: path });
      for (const found of read.problems) problems.push(found);
    }
  }
  const seen = new Set<string>();
  const once = [...findings.problems, ...problems].filter(({ code, place, params }) => {
    const key = JSON.stringify([code, place, params]);
    return !seen.has(key) && seen.add(key);
  });
  return { points, problems: once, more: findings.more };
}

/** The names of the points a body has, however they are given. */
export function pointNames(body: string, sources: Sources): ReadonlySet<string> {
  const source = pointsFor(body, sources)?.source;
  return new Set(source === undefined ? [] : Object.keys("frames" in source ? source.frames : source.colors));
}

function pointsFor(body: string, sources: Sources) {
  const line = lineage(body, sources);
  const rig = sources.rigs.get(inherited(line, "rig") ?? "");
  if (rig === undefined) return undefined;
  const own = line.find(({ value }) => value.points !== undefined);
  const entry: Entry<unknown> = own ?? rig;
  const source = own?.value.points ?? rig.value.points;
  return source === undefined ? undefined : { entry, rig: rig.value, source };
}

type Frames = Extract<PointsSource, { frames: unknown }>["frames"];

function framedTable(entry: Entry<unknown>, rig: RigSource, source: Frames, findings: Findings): PointTable {
  const animations = new Set(Object.keys(rig.animations));
  const drawn = new Set(drawnFacings(rig));
  return new Map(
    Object.entries(source).map(([name, byAnimation]) => [
      name,
      new Map(
        Object.entries(byAnimation).map(([animation, byFacing]) => {
          const keys = ["points", "frames", name, animation];
          const known = findings.known(entry, keys, "animation", animation, animations);
          const frames = known ? (getOwn(rig.animations, animation)?.frames ?? 1) : 1;
          const facings = Object.entries(byFacing).map(([facing, places]): [string, readonly (Point | undefined)[]] => {
            findings.known(entry, [...keys, facing], "facing", facing, drawn);
            const list = isPoint(places) ? Array.from({ length: frames }, () => places) : places;
            if (known && list.length !== frames) reportLength(entry, [...keys, facing], list.length, frames, findings);
            return [facing, list.map((place) => (place === null ? undefined : { x: place[0], y: place[1] }))];
          });
          return [animation, new Map(facings)];
        }),
      ),
    ]),
  );
}

function isPoint(places: Pair | readonly (Pair | null)[]): places is Pair {
  return typeof places[0] === "number";
}

type Pair = readonly [x: number, y: number];

function reportLength(
  entry: Entry<unknown>,
  keys: readonly string[],
  found: number,
  frames: number,
  findings: Findings,
): void {
  findings.report(entry, keys, "point-frames", { count: found, frames });
}

function notHandedIn(path: string, { file, pointer }: Entry<unknown>): Problem {
  return {
    code: "missing-points",
    params: { path },
    severity: "warning",
    place: { file, pointer: pointer + pointerTo("points", "image") },
    fixes: adviceOn("missing-points"),
  };
}

import type { AnimationChannel, Document, Node } from "@gltf-transform/core";
import { ancestors } from "./find-pieces.ts";
import { type Matrix, matrixOf, multiply, type Stand, turnBetween } from "./matrix.ts";
import type { Pose, Skeleton } from "./pose.ts";

/** The skeleton of a document. */
export class ModelSkeleton implements Skeleton {
  readonly numbers: ReadonlyMap<string, number>;
  readonly #parents: readonly number[];
  readonly #rest: readonly Stand[];
  readonly #clips: ReadonlyMap<string, Clip>;

  constructor(document: Document) {
    const nodes = document
      .getRoot()
      .listNodes()
      .toSorted((one, other) => ancestors(one).length - ancestors(other).length);
    const numbers = new Map(nodes.map((node, number) => [node, number]));
    this.numbers = new Map(nodes.map((node, number) => [node.getName(), number]));
    this.#parents = nodes.map((node) => numbers.get(node.getParentNode() as Node) ?? -1);
    this.#rest = nodes.map((node) => ({
      translation: node.getTranslation(),
      rotation: node.getRotation(),
      scale: node.getScale(),
    }));
    const clips = document.getRoot().listAnimations();
    this.#clips = new Map(clips.map((clip) => [clip.getName(), new Clip(clip.listChannels(), numbers)]));
  }

  durationOf(clip: string): number {
    return this.#clips.get(clip)?.duration ?? 0;
  }

  pose(clip: string, time: number): Pose {
    const stands = [...this.#rest];
    this.#clips.get(clip)?.move(stands, time);
    const world: Matrix[] = [];
    for (const [number, stand] of stands.entries()) {
      const own = matrixOf(stand);
      const parent = world[this.#parents[number] ?? -1];
      world.push(parent === undefined ? own : multiply(parent, own));
    }
    return world;
  }
}

/** What moves one property of a joint. */
interface Track {
  readonly joint: number;
  readonly property: keyof Stand;
  readonly times: ArrayLike<number>;
  readonly values: readonly (readonly number[])[];
  readonly way: string;
}

class Clip {
  readonly duration: number;
  readonly #tracks: readonly Track[];

  constructor(channels: readonly AnimationChannel[], numbers: ReadonlyMap<Node, number>) {
    this.#tracks = channels.flatMap((channel): Track[] => {
      const joint = numbers.get(channel.getTargetNode() as Node);
      const property = channel.getTargetPath();
      const [input, output] = [channel.getSampler()?.getInput(), channel.getSampler()?.getOutput()];
      if (joint === undefined || !input || !output) return [];
      if (property !== "translation" && property !== "rotation" && property !== "scale") return [];
      const values = Array.from({ length: output.getCount() }, (_, at) => output.getElement(at, []));
      return [
        {
          joint,
          property,
          times: input.getArray() ?? [],
          values,
          way: channel.getSampler()?.getInterpolation() ?? "LINEAR",
        },
      ];
    });
    this.duration = Math.max(0, ...this.#tracks.map(({ times }) => times[times.length - 1] ?? 0));
  }

  move(stands: Stand[], time: number): void {
    for (const track of this.#tracks) {
      const stand = stands[track.joint];
      const value = valueAt(track, time);
      if (stand !== undefined && value !== undefined) stands[track.joint] = { ...stand, [track.property]: value };
    }
  }
}

/** What a track says at a time (glTF 2.0, appendix C). */
function valueAt({ times, values, way, property }: Track, time: number): readonly number[] | undefined {
  const last = times.length - 1;
  const cubic = way === "CUBICSPLINE";
  const value = (key: number) => values[cubic ? key * 3 + 1 : key];
  let key = 0;
  while (key < last && (times[key + 1] as number) <= time) key += 1;
  const [from, to] = [value(key), value(key + 1)];
  if (from === undefined || to === undefined || key >= last || time <= (times[0] ?? 0) || way === "STEP") return from;
  const span = (times[key + 1] as number) - (times[key] as number);
  const along = Math.min(1, Math.max(0, (time - (times[key] as number)) / span));
  if (!cubic)
    return property === "rotation"
      ? turnBetween(from, to, along)
      : from.map((one, at) => one + ((to[at] as number) - one) * along);
  const [out, into] = [values[key * 3 + 2] ?? [], values[key * 3 + 3] ?? []];
  const [square, cube] = [along * along, along * along * along];
  const mixed = from.map(
    (one, at) =>
      (2 * cube - 3 * square + 1) * one +
      (cube - 2 * square + along) * span * (out[at] ?? 0) +
      (3 * square - 2 * cube) * (to[at] as number) +
      (cube - square) * span * (into[at] ?? 0),
  );
  if (property !== "rotation") return mixed;
  const length = Math.hypot(...mixed);
  return mixed.map((one) => one / length);
}

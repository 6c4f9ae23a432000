import type { Document, Node } from "@gltf-transform/core";
import type { SkeletonFit } from "./skeleton-fit.ts";

/** How much a pose may differ and be the same: what an exporter rounds. */
const same = { degrees: 0.5, share: 0.002 };

/**
 * Says how joints fit another skeleton: by their names, by names that mean the same (`Hand.L`, `hand_left`), and by how they rest.
 *
 * @param joints - the joints that are followed.
 * @param skeleton - the model with the other skeleton.
 */
export function fitJoints(joints: readonly Node[], skeleton: Document): SkeletonFit {
  const nodes = skeleton.getRoot().listNodes();
  const byName = new Map(nodes.map((node) => [node.getName(), node]));
  const byMeaning = new Map(nodes.map((node) => [meaningOf(node.getName()), node]));
  const found = joints.map((joint) => ({
    joint,
    other: byName.get(joint.getName()) ?? byMeaning.get(meaningOf(joint.getName())),
  }));
  const missing = found.filter(({ other }) => other === undefined).map(({ joint }) => joint.getName());
  if (missing.length > 0) return { kind: "missing", joints: missing };
  const height = Math.max(...nodes.map((node) => Math.abs(node.getWorldTranslation()[1])), 1e-6);
  const differences = found.flatMap(({ joint, other }) => (other === undefined ? [] : [differenceOf(joint, other)]));
  const [worst] = differences.toSorted(
    (one, two) => two.degrees + two.units / height - one.degrees - one.units / height,
  );
  const names = new Map(
    found.flatMap(({ joint, other }) =>
      other === undefined || other.getName() === joint.getName() ? [] : [[joint.getName(), other.getName()]],
    ),
  );
  if (worst !== undefined && (worst.degrees > same.degrees || worst.units > same.share * height))
    return { kind: "posed", ...worst, names };
  if (names.size > 0) return { kind: "renamed", names };
  return { kind: joints.length < nodes.length ? "subset" : "same" };
}

/** What a joint's name means: without what stands before it, with sides and words written in one way. */
function meaningOf(name: string): string {
  return name
    .replace(/^.*[:|]/, "")
    .replace(/([a-z])([A-Z])/g, "$1 $2")
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .map((word) => ({ l: "left", r: "right" })[word] ?? word)
    .filter((word) => word !== "")
    .toSorted()
    .join(" ");
}

/** How differently two joints rest: by the angle between them, and by how far they are apart. */
function differenceOf(
  one: Node,
  other: Node,
): { readonly joint: string; readonly degrees: number; readonly units: number } {
  const [a, b] = [one.getWorldRotation(), other.getWorldRotation()];
  const dot = Math.abs(a.reduce((sum, value, at) => sum + value * (b[at] ?? 0), 0));
  const [here, there] = [one.getWorldTranslation(), other.getWorldTranslation()];
  return {
    joint: one.getName(),
    degrees: (2 * Math.acos(Math.min(1, dot)) * 180) / Math.PI,
    units: Math.hypot(...here.map((value, at) => value - (there[at] ?? 0))),
  };
}

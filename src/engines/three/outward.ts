import { type BufferGeometry, Float32BufferAttribute, Vector3 } from "three";

/**
 * Gives corners that lie in one place one direction outward, the mean of theirs: where edges are hard, the lines around a mesh would be torn open
 * there. Corners that are alone have their own.
 */
export function withOutward(geometry: BufferGeometry): BufferGeometry {
  if (geometry.hasAttribute("outward")) return geometry;
  const [position, normal] = [geometry.getAttribute("position"), geometry.getAttribute("normal")];
  const sums = new Map<string, Vector3>();
  const placed = Array.from({ length: position.count }, (_, corner) => {
    const place = [position.getX(corner), position.getY(corner), position.getZ(corner)].join();
    const sum = sums.get(place) ?? new Vector3();
    sums.set(place, sum.add(new Vector3().fromBufferAttribute(normal, corner)));
    return sum;
  });
  if (sums.size === position.count) return geometry.setAttribute("outward", normal);
  for (const sum of sums.values()) sum.normalize();
  return geometry.setAttribute(
    "outward",
    new Float32BufferAttribute(
      placed.flatMap((sum) => sum.toArray()),
      3,
    ),
  );
}

import type { Buffer, Document, Property } from "@gltf-transform/core";
import { PropertyType } from "@gltf-transform/core";

type Maker = new (graph: ReturnType<Document["getGraph"]>) => Property;

/**
 * Copies what belongs to a model into another, with all that it uses; what was copied before is used again.
 *
 * @param known - what stands for what: joints of the other model for those of this one, and what was copied. Added to.
 */
export function copyInto<P extends Property>(target: Document, source: P, known: Map<Property, Property>): P {
  const buffer: Buffer = target.getRoot().listBuffers()[0] ?? target.createBuffer();
  const graph = source.getGraph();
  const resolve = <T extends Property>(property: T): T => {
    // These belong to what has them, and are copied with it.
    if (property.propertyType === PropertyType.TEXTURE_INFO) return property;
    if (property.propertyType === PropertyType.BUFFER) return buffer as unknown as T;
    const found = known.get(property) ?? new (property.constructor as Maker)(target.getGraph());
    known.set(property, found);
    return found as T;
  };
  const fresh = new Set<Property>();
  const queue: Property[] = [source];
  for (let next = queue.pop(); next !== undefined; next = queue.pop()) {
    const isOwned = next.propertyType === PropertyType.TEXTURE_INFO;
    if (fresh.has(next) || (known.has(next) && !isOwned) || next.propertyType === PropertyType.BUFFER) continue;
    fresh.add(next);
    queue.push(...(graph.listChildren(next) as Property[]));
  }
  for (const property of fresh) if (property.propertyType !== PropertyType.TEXTURE_INFO) resolve(property);
  for (const property of fresh)
    if (property.propertyType !== PropertyType.TEXTURE_INFO) resolve(property).copy(property, resolve);
  return resolve(source);
}

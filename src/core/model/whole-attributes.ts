import { type Accessor, Extension, PropertyType, WriterContext } from "@gltf-transform/core";

/**
 * Has the attributes of corners written as they lie in memory, each in a view of its own. The writer copies them number by number, which is
 * most of its time; it lets an extension say how numbers are grouped. Of the extension itself nothing is in the file.
 */
export class WholeAttributes extends Extension {
  static override readonly EXTENSION_NAME = "whole-attributes";
  override readonly extensionName = WholeAttributes.EXTENSION_NAME;
  override readonly prewriteTypes = [PropertyType.ACCESSOR];
  readonly #whole: Accessor[] = [];

  override prewrite(context: WriterContext): this {
    for (const [number, accessor] of this.document.getRoot().listAccessors().entries()) {
      if (context.getAccessorUsage(accessor) !== WriterContext.BufferViewUsage.ARRAY_BUFFER || !isAligned(accessor))
        continue;
      context.addAccessorToUsageGroup(accessor, `attribute ${number}`);
      this.#whole.push(accessor);
    }
    return this;
  }

  override read(): this {
    return this;
  }

  override write({ jsonDoc: { json }, accessorIndexMap }: WriterContext): this {
    for (const accessor of this.#whole) {
      const { bufferView } = json.accessors?.[accessorIndexMap.get(accessor) as number] ?? {};
      const view = json.bufferViews?.[bufferView as number];
      if (view !== undefined) view.target = WriterContext.BufferViewTarget.ARRAY_BUFFER;
    }
    json.extensionsUsed = (json.extensionsUsed ?? []).filter((name) => name !== this.extensionName);
    return this;
  }
}

/** Whether each element begins at a multiple of four bytes, as glTF 2.0 (§3.6.2.4) asks of the attributes of corners. */
function isAligned(accessor: Accessor): boolean {
  return (accessor.getElementSize() * accessor.getComponentSize()) % 4 === 0;
}

/**
 * Makes an id of the name of a file or a layer: lower-case words joined by hyphens, without the file's ending.
 *
 * @returns `undefined` for a name without a letter of the Latin alphabet, even one with a mark on it.
 * @example
 * nameId("Cap Team!.png") // → "cap-team"
 */
export function nameId(name: string): string | undefined {
  const words = titleOf(name)
    // Marks are taken off their letters: é is e and a mark.
    .normalize("NFD")
    .replace(/\p{Mark}/gu, "")
    .replace(/([a-z0-9])([A-Z])/g, "$1-$2")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^[0-9-]+|-+$/g, "");
  return words === "" ? undefined : words;
}

/** The name of a file without its folders and its ending: a title for people. */
export function titleOf(name: string): string {
  return withoutEnding(name.split("/").at(-1) ?? name);
}

/** The name of a file without its ending. */
export function withoutEnding(name: string): string {
  return name.replace(/\.(png|ora|json|glb|gltf)$/i, "");
}

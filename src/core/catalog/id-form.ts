/** Lower-case words with hyphens. */
const words = "[a-z][a-z0-9]*(-[a-z0-9]+)*";

/** The form of an id, for patterns: `storm-hat`, and `festival.storm-hat` for one that belongs to the pack `festival`. */
export const idText = `${words}(\\.${words})?`;

/** The pack whose name an id bears, as in `festival.storm-hat`; `undefined` for one without. */
export function namespaceOf(id: string): string | undefined {
  const end = id.indexOf(".");
  return end < 0 ? undefined : id.slice(0, end);
}

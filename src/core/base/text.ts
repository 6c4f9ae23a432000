/** Text a player sees: one string for every language, or one for each BCP 47 language tag. */
export type Text = string | Readonly<Record<string, string>>;

/**
 * Picks the text for a language by the lookup of RFC 4647 §3.4: the tag itself, then the tag with its last subtags cut off
 * one by one, then English, then whatever comes first.
 *
 * @example
 * textIn({ en: "Storm hat", de: "Sturmhut" }, "de-AT") // → "Sturmhut"
 */
export function textIn(text: Text, language = "en"): string {
  if (typeof text === "string") return text;
  const byTag = new Map(Object.entries(text).map(([tag, words]) => [tag.toLowerCase(), words]));
  for (let tag = language.toLowerCase(); tag !== ""; tag = tag.slice(0, Math.max(0, tag.lastIndexOf("-")))) {
    const words = byTag.get(tag);
    if (words !== undefined) return words;
  }
  return byTag.get("en") ?? byTag.values().next().value ?? "";
}

const smallA = 97;

/** The title of something that has none: its id as words, `"storm-hat"` → `"Storm hat"`. */
export function titleFromId(id: string): string {
  const words = id.replaceAll("-", " ");
  const first = words.charCodeAt(0);
  // Nearly all ids begin with a small letter of ASCII, which takes no search among all letters there are.
  const isPlain = first >= smallA && first <= smallA + 25;
  return (isPlain ? String.fromCharCode(first - 32) : words.charAt(0).toUpperCase()) + words.slice(1);
}

export const nameLimit = 16;

/**
 * Brings a typed name into the form it is kept in: normalized (Unicode NFC), trimmed, runs of white space made one space,
 * control characters removed.
 *
 * @example
 * normalizeName("  Wren   of\tthe Reeds ") // → "Wren of the Reeds"
 */
export function normalizeName(typed: string): string {
  return typed
    .normalize("NFC")
    .replace(/\s+/gu, " ")
    .replace(/\p{Cc}/gu, "")
    .trim();
}

/** How many graphemes a text has (UAX #29), so that a letter with its accents, or an emoji of several parts, counts once. */
export function countGraphemes(text: string): number {
  // Of printable ASCII, which most names are, each is one.
  if (isPrintable(text)) return text.length;
  let count = 0;
  for (const _ of graphemesOf(text)) count += 1;
  return count;
}

/** Whether a text is printable ASCII and nothing else. */
export function isPrintable(text: string): boolean {
  return /^[ -~]*$/.test(text);
}

/** The graphemes of a text, one after the other. */
export function graphemesOf(text: string): Iterable<Intl.SegmentData> {
  segmenter ??= new Intl.Segmenter(undefined, { granularity: "grapheme" });
  return segmenter.segment(text);
}

/** Made once, which takes some hundred times as long as asking it. */
let segmenter: Intl.Segmenter | undefined;

/** What two names have in common that readers take for one: compatibility forms (Unicode NFKC) and case are set aside. */
export function nameKey(name: string): string {
  return normalizeName(name).normalize("NFKC").toLowerCase();
}

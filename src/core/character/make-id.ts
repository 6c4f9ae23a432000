/** The form of a character's id. */
export const characterIdForm = /^[a-z0-9]+(-[a-z0-9]+)*$/;

/** How many letters an id of a character has at most. */
export const longestCharacterId = 64;

// Of the platform: Node has it, and browsers do, on pages without encryption too.
declare const crypto: { getRandomValues(bytes: Uint8Array): Uint8Array };

/** Without letters that are easily taken for digits (D. Crockford, "Base 32", 2002). */
const letters = "0123456789abcdefghjkmnpqrstvwxyz";
const length = 20;

/**
 * Makes an id that no other character has: 20 letters and digits, a hundred bits of chance.
 *
 * @param random - a source of chance, at least 0 and less than 1. @defaultValue that of the platform, fit for secrets
 */
export function makeId(random?: () => number): string {
  const places =
    random === undefined
      ? [...crypto.getRandomValues(new Uint8Array(length))].map((byte) => byte % letters.length)
      : Array.from({ length }, () => Math.floor(random() * letters.length));
  return places.map((place) => letters[place]).join("");
}

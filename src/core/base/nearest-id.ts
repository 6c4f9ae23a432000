import leven from "leven";

/**
 * The known id that is near enough to a wrong one to be what was meant.
 *
 * @returns `undefined` when none is.
 */
export function nearestId(wrong: string, known: readonly string[]): string | undefined {
  const near = Math.min(3, Math.max(1, Math.floor(wrong.length / 2)));
  // Nobody misspells what is longer, and comparing costs the product of the lengths.
  const alike = wrong.length > longest ? [] : known.filter((id) => Math.abs(id.length - wrong.length) <= near);
  if (alike.length > most) return undefined;
  let meant: string | undefined;
  let least = near + 1;
  for (const id of alike) {
    const away = leven(wrong, id, { maxDistance: least });
    // Of a short word one letter is wrong, or two are exchanged: "left" is no misspelled "west".
    if (away > wrong.length / 3 && away > 1 && lettersOf(wrong) !== lettersOf(id)) continue;
    if (away < least) [meant, least] = [id, away];
  }
  return meant;
}

function lettersOf(id: string): string {
  return [...id].sort().join("");
}

const longest = 64;

/** To how many ids one is compared. */
const most = 20_000;

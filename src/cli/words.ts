import { InvalidArgumentError } from "commander";

/** Reads several words from one, `walk,idle`, so that no option takes the words after it for its own; given again, it has more. */
export function words(text: string, before: readonly string[] = []): readonly string[] {
  const more = text.split(",").map((word) => word.trim());
  if (more.includes("")) throw new InvalidArgumentError("Give words with commas between them, like walk,idle.");
  return [...before, ...more];
}

/** The same, of words that are allowed. */
export function wordsOf<const W extends string>(
  allowed: readonly W[],
): (text: string, before?: readonly W[]) => readonly W[] {
  return (text, before) => {
    const all = words(text, before);
    const wrong = all.find((word) => !(allowed as readonly string[]).includes(word));
    if (wrong !== undefined) throw new InvalidArgumentError(`Allowed are ${allowed.join(", ")}.`);
    return all as readonly W[];
  };
}

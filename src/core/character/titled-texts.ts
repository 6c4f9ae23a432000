import { englishTexts, type Texts } from "./english-texts.ts";

const spoken = {
  "a-part": "{part:title}",
  "a-tag": "something {id}",
  "a-slot": "something for {slot:title}",
  "a-body": "the build {body:title}",
  "an-outfit": "all of {outfit:title}",
} as const;

/** What has a title, in the texts; of a list, each of its members. */
const named = /"?\{(part|other|slot|body|outfit|channel|ramp|stat|step|preset|parts|slots|bodies|ramps)\}"?/g;

/**
 * Our English texts for players: titles in place of ids. `checkLoadout`, fittings and steps say them when they are handed in as
 * `texts`; the ready-made screens are best opened so.
 *
 * @example
 * openFitting(catalog, wren, { texts: titledTexts })
 */
export const titledTexts: Texts = Object.fromEntries(
  Object.entries({ ...englishTexts, ...spoken }).map(([code, text]) => [
    code,
    text.includes(":title}") ? text : text.replace(named, "{$1:title}"),
  ]),
);

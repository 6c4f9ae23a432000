/**
 * The sentences about what is looked at while a game is made, in English.
 *
 * @module zealous-mantle/locales/en/art
 */
import { fixes, phrases, problems } from "./english-art-sentences.ts";

/** The sentences about what is looked at while a game is made, in English. */
export const englishArt = { ...problems, ...fixes, ...phrases } as const;

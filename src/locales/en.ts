/**
 * English: the texts of the screens, and all sentences.
 *
 * @module zealous-mantle/locales/en
 */
export { english as messages } from "../core/base/messages/english.ts";
export { englishScreenTexts as texts } from "../elements/english-texts.ts";

/** Its tag (BCP 47). */
export const language = "en";

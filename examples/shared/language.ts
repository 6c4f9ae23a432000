import { type Messages, type Text, textIn } from "zealous-mantle";
import type { ScreenTexts } from "zealous-mantle/elements";

/** What a screen needs of a language. */
interface Spoken {
  readonly texts?: ScreenTexts;
  readonly messages?: Partial<Messages>;
}

const language = new URLSearchParams(location.search).get("lang") ?? "en";
document.documentElement.lang = language;

/** A text of the example's own, in the language that is asked for. */
export function inLanguage(text: Text): string {
  return textIn(text, language);
}

/** The words of the screens in the language that the address asks for, as `?lang=de` does. Titles are in the catalog, in each of its languages. */
export const spoken: Spoken = language === "de" ? await import("./german.ts") : {};

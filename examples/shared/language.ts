import { type LoadoutMessages, type Text, textIn } from "zealous-mantle";
import type { ScreenTexts } from "zealous-mantle/elements";

/** What a screen needs of a language. */
interface Spoken {
  readonly language?: string;
  readonly texts?: ScreenTexts;
  readonly messages?: LoadoutMessages;
}

const languages: Readonly<Record<string, () => Promise<Spoken>>> = {
  ar: () => import("zealous-mantle/locales/ar"),
  de: () => import("zealous-mantle/locales/de"),
  es: () => import("zealous-mantle/locales/es"),
  fr: () => import("zealous-mantle/locales/fr"),
  ja: () => import("zealous-mantle/locales/ja"),
};

const asked = new URLSearchParams(location.search).get("lang") ?? "en";
document.documentElement.lang = asked;
document.documentElement.dir = asked === "ar" ? "rtl" : "ltr";

/** A text of the example's own, in the language that is asked for. */
export function inLanguage(text: Text): string {
  return textIn(text, asked);
}

/** The words of the screens in the language that the address asks for, as `?lang=de` does. Titles are in the catalog, in each of its languages. */
export const spoken: Spoken = (await languages[asked]?.()) ?? {};

/**
 * A number as a language writes it, with two digits after the point at most; its plain digits where no language is given.
 *
 * @param signed - with a sign before it, also where it is more than nothing.
 */
export function formatNumber(number: number, language?: string, { signed = false } = {}): string {
  if (language === undefined) return String(number);
  return number.toLocaleString(language, { maximumFractionDigits: 2, signDisplay: signed ? "exceptZero" : "auto" });
}

/** The words for a number: `one=pixel;other=pixels` has those of each plural category that the language has (Unicode CLDR, plural rules). */
export function pluralOf(number: number, option: string, language = "en"): string {
  const words = new Map(option.split(";").map((each) => each.split("=", 2) as [string, string]));
  return words.get(new Intl.PluralRules(language).select(number)) ?? words.get("other") ?? "";
}

import { formatNumber, pluralOf } from "../core/base/number-words.ts";

/**
 * Every text of the screens, by name. `{…}` is replaced by a value; `{count:one=place;other=places}` by the word for a number, for each plural
 * category that the language has (Unicode CLDR).
 */
export const englishScreenTexts = {
  "turn-left": "Turn left",
  "turn-right": "Turn right",
  closer: "Closer",
  farther: "Farther",
  animation: "Movement",
  figure: "{name}, facing {facing}",
  nameless: "The figure",
  build: "Build",
  presets: "Ready-made",
  outfits: "Outfits",
  looks: "Looks",
  gear: "Gear",
  whole: "The whole",
  pages: "What to change",
  nothing: "Nothing",
  "is-worn": "worn",
  "is-worn-unseen": "worn, unseen with {outfit}",
  "is-chosen": "chosen",
  "takes-off": "takes off {parts}",
  "is-locked": "locked",
  "is-locked-for": "locked, {price}",
  "not-now": "Not now. {because}",
  color: "{channel}: {ramp}",
  "own-color": "{channel}: a color of your own",
  stats: "What it does",
  undo: "Undo",
  redo: "Redo",
  revert: "Start over",
  roll: "Surprise me",
  name: "Name",
  "make-name": "Make one up",
  "needs-name": "Write a name first, of {most} {most:one=letter;other=letters} at most.",
  finish: "Done",
  cancel: "Give up",
  "give-up": "Give up what was changed?",
  "go-on": "Go on",
  "came-off": "{part} came off. {because}",
  becomes: "{part} became {other}.",
  searching: "Searching…",
  "not-loaded": "This could not be loaded. Try again.",
  "settled-with": "So that it holds: {edits}.",
  step: "Step {at} of {of}",
  steps: "Steps",
  back: "Back",
  next: "Next",
  later: "Later",
  confirm: "Keep {answer}?",
  keep: "Keep it",
  "choose-again": "Choose again",
  "fell-away": "{step}: {answer} does not fit any more. It comes back when it does.",
  "left-open": "left for later",
  "all-asked": "All steps are complete.",
  bag: "Bag",
  "bag-empty": "The bag is empty.",
  worn: "Worn",
  "slot-empty": "empty",
  "puts-it-on": "Press to put it on.",
  "takes-it-off": "Press to take it off.",
  count: "×{count}",
  "go-with": "Go with {name}",
  "is-here": "Here ({count})",
  "are-retired": "Retired ({count})",
  "nobody-here": "There are no characters yet.",
  "nobody-retired": "No character is retired.",
  unnamed: "Without a name",
  "sits-in": "seat {seat}",
  change: "Change",
  rename: "Rename",
  duplicate: "Copy",
  "move-earlier": "Move earlier",
  "move-later": "Move later",
  retire: "Retire",
  restore: "Bring back",
  add: "A new one",
  "is-full": "No more fit in here. Retire somebody first.",
  "was-retired": "{name} is retired. Nothing is lost: they can be brought back.",
  "was-copied": "{name} is a copy of {other}.",
  "what-to-do": "What to do with {name}",
  seat: "Seat {seat}",
  "join-by": "{keys}, or a gamepad: press to join.",
  "join-by-pad": "Press on a gamepad to join.",
  "join-here": "Join here",
  "is-choosing": "Choosing",
  "is-ready": "Ready",
  "choose-this": "Choose",
  "take-back": "Take back",
  "leave-seat": "Leave",
  "nothing-left": "Nobody is left to choose.",
  "starts-in": "Off in {seconds}",
  "ends-in": "Seconds left: {seconds}",
  "all-choose": "Everyone chooses one.",
  pointer: "Mouse or touch",
  "no-picture": "A picture is missing. {because}",
} as const;

/** The names of the texts. */
export type ScreenText = keyof typeof englishScreenTexts;

/** A language for the screens, with every text: one that is missing is an error of the compiler. */
export type ScreenLanguage = Readonly<Record<ScreenText, string>>;

/** Words of the game's own for the screens: another language, or another tone. */
export type ScreenTexts = Readonly<Partial<Record<ScreenText, string>>>;

/** The tag of the language something is shown in: its own, or that of the page, or English. */
export function localeOf(language: string | undefined): string {
  return language || document.documentElement.lang || "en";
}

/** Returns a text of the screens, with numbers and plurals as its language has them. */
export function sayOnScreen(
  texts: ScreenTexts,
  name: ScreenText,
  words: Readonly<Record<string, string | number>> = {},
  language?: string,
): string {
  const template: string = texts[name] ?? englishScreenTexts[name];
  const locale = localeOf(language);
  return template.replace(/\{([a-z]+)(?::([^{}]+))?\}/g, (whole, word: string, plural?: string) => {
    const value = Object.hasOwn(words, word) ? words[word] : whole;
    if (plural !== undefined) return pluralOf(Number(value), plural, locale);
    return typeof value === "number" ? formatNumber(value, locale) : String(value);
  });
}

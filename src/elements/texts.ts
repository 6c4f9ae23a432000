import { formatNumber, pluralOf } from "../core/base/number-words.ts";

/**
 * The texts of the screens in English, by name. `{…}` is replaced by a value; `{count:one=place;other=places}` by the word for a number, for each
 * plural category that the language has (Unicode CLDR). They are apart by the screens that say them, so that a page loads those of its screens.
 */

/** What is said by screens that have nothing else in common. */
export const commonTexts = { back: "Back", name: "Name" } as const;

/** What the stage says. */
export const stageTexts = {
  "turn-left": "Turn left",
  "turn-right": "Turn right",
  closer: "Closer",
  farther: "Farther",
  animation: "Movement",
  figure: "{name}, facing {facing}",
  nameless: "The figure",
  "no-picture": "A picture is missing. {because}",
} as const;

/** What all screens say that end with a character. */
export const endingTexts = {
  finish: "Done",
  cancel: "Give up",
} as const;

/** What the steps and the fitting say. */
export const choosingTexts = {
  nothing: "Nothing",
  "not-now": "Not now. {because}",
  "is-locked": "locked",
  "make-name": "Make one up",
  "needs-name": "Write a name first, of {most} {most:one=letter;other=letters} at most.",
} as const;

/** What the fitting and the equipment say. */
export const wearingTexts = {
  stats: "What it does",
  undo: "Undo",
  redo: "Redo",
  revert: "Start over",
  "came-off": "{part} came off. {because}",
  becomes: "{part} became {other}.",
  "settled-with": "So that it holds: {edits}.",
} as const;

/** What only the fitting says. */
export const fittingTexts = {
  build: "Build",
  presets: "Ready-made",
  outfits: "Outfits",
  looks: "Looks",
  gear: "Gear",
  whole: "The whole",
  pages: "What to change",
  "is-worn": "worn",
  "is-worn-unseen": "worn, unseen with {outfit}",
  "is-chosen": "chosen",
  "takes-off": "takes off {parts}",
  "is-locked-for": "locked, {price}",
  color: "{channel}: {ramp}",
  "own-color": "{channel}: a color of your own",
  roll: "Surprise me",
  "give-up": "Give up what was changed?",
  "go-on": "Go on",
  "not-loaded": "This could not be loaded. Try again.",
  searching: "Searching…",
} as const;

/** What only the steps say. */
export const stepsTexts = {
  steps: "Steps",
  next: "Next",
  later: "Later",
  confirm: "Keep {answer}?",
  keep: "Keep it",
  "choose-again": "Choose again",
  "fell-away": "{step}: {answer} does not fit any more. It comes back when it does.",
  "left-open": "left for later",
  "all-asked": "All steps are complete.",
} as const;

/** What only the equipment says. */
export const equipmentTexts = {
  bag: "Bag",
  "bag-empty": "The bag is empty.",
  worn: "Worn",
  "slot-empty": "empty",
  "puts-it-on": "Press to put it on.",
  "takes-it-off": "Press to take it off.",
  count: "×{count}",
} as const;

/** What the roster and the seats say. */
export const peopleTexts = {
  "nobody-here": "There are no characters yet.",
  unnamed: "Without a name",
} as const;

/** What only the roster says. */
export const rosterTexts = {
  "go-with": "Go with {name}",
  "is-here": "Here ({count})",
  "are-retired": "Retired ({count})",
  "nobody-retired": "No character is retired.",
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
} as const;

/** What only the seats say. */
export const seatsTexts = {
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
} as const;

/** The names of the texts. */
export type ScreenText =
  | keyof typeof commonTexts
  | keyof typeof stageTexts
  | keyof typeof endingTexts
  | keyof typeof choosingTexts
  | keyof typeof wearingTexts
  | keyof typeof fittingTexts
  | keyof typeof stepsTexts
  | keyof typeof equipmentTexts
  | keyof typeof peopleTexts
  | keyof typeof rosterTexts
  | keyof typeof seatsTexts;

/** What is said by a screen on which things are put on. */
export type WearingText = keyof typeof wearingTexts;

/** What is said of the pages and cards of the fitting. */
export type FittingText = WearingText | keyof typeof fittingTexts | keyof typeof choosingTexts;

/** A language for the screens, with every text: one that is missing is an error of the compiler. */
export type ScreenLanguage = Readonly<Record<ScreenText, string>>;

/** Words of the game's own for the screens: another language, or another tone. */
export type ScreenTexts = Readonly<Partial<Record<ScreenText, string>>>;

/** The tag of the language something is shown in: its own, or that of the page, or English. */
export function localeOf(language: string | undefined): string {
  return language || document.documentElement.lang || "en";
}

/**
 * Fills in a text of the screens, with numbers and plurals as its language has them.
 *
 * @param template - the text, with names in braces.
 */
export function fillText(
  template: string,
  words: Readonly<Record<string, string | number>> = {},
  language?: string,
): string {
  const locale = localeOf(language);
  return template.replace(/\{([a-z]+)(?::([^{}]+))?\}/g, (whole, word: string, plural?: string) => {
    const value = Object.hasOwn(words, word) ? words[word] : whole;
    if (plural !== undefined) return pluralOf(Number(value), plural, locale);
    return typeof value === "number" ? formatNumber(value, locale) : String(value);
  });
}

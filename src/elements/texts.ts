/** Everything the screens say by themselves, by name. `{…}` stands for what is put in. */
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
  "is-chosen": "chosen",
  "takes-off": "takes off {parts}",
  "is-locked": "locked",
  "is-locked-for": "locked, {price}",
  "not-now": "Not now. {because}",
  colors: "Colors",
  color: "{channel}: {ramp}",
  "own-color": "{channel}: a color of your own",
  stats: "What it does",
  "stat-now": "{stat} {value}",
  "stat-then": "{stat} {value}, then {after}",
  undo: "Undo",
  redo: "Redo",
  revert: "Start over",
  roll: "Surprise me",
  name: "Name",
  "make-name": "Make one up",
  "needs-name": "The name is missing. Write one first.",
  finish: "Done",
  cancel: "Give up",
  "give-up": "Give up what was changed?",
  "go-on": "Go on",
  "came-off": "{part} came off. {because}",
  becomes: "{part} became {other}.",
  "settled-with": "So that it holds: {edits}.",
  "take-off": "take off {part}",
  "put-on": "put on {part}",
  "do-that": "Do that",
  "all-holds": "Nothing stands in the way.",
  step: "Step {at} of {of}",
  steps: "Steps",
  back: "Back",
  next: "Next",
  later: "Later",
  confirm: "{answer}: shall it stay so?",
  keep: "Keep it",
  "choose-again": "Choose again",
  "fell-away": "{step}: {answer} does not fit any more. It comes back when it does.",
  "left-open": "left for later",
  "all-asked": "All is answered.",
  bag: "Bag",
  "bag-empty": "The bag is empty.",
  worn: "Worn",
  "slot-empty": "empty",
  "puts-it-on": "Press to put it on.",
  "takes-it-off": "Press to take it off.",
  count: "{count} of them",
  "no-picture": "A picture is missing. {because}",
} as const;

/** The names of what the screens say. */
export type ScreenText = keyof typeof englishScreenTexts;

/** Words of the game's own for the screens: another language, or another voice. */
export type ScreenTexts = Readonly<Partial<Record<ScreenText, string>>>;

/** Says a text of the screens. */
export function sayOnScreen(
  texts: ScreenTexts,
  name: ScreenText,
  words: Readonly<Record<string, string | number>> = {},
): string {
  const template: string = texts[name] ?? englishScreenTexts[name];
  return template.replace(/\{([a-z]+)\}/g, (whole, word: string) =>
    Object.hasOwn(words, word) ? String(words[word]) : whole,
  );
}

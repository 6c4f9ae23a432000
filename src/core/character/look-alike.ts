import { isPrintable, nameKey } from "./name.ts";

/**
 * Letters that readers take for a Latin one, in pairs: the look-alike, then what it passes for. The part of the table of Unicode TS 39
 * (`confusables.txt`, version 16) that is about letters of names in Latin, Greek, Cyrillic and Armenian, and digits.
 */
const pairs =
  "аaсcеeһhіiјjԛqоoрpѕsуyхxԝwѵvԁdӏlгrьb" +
  "АAВBСCЕEНHІIЈJКKМMОOРPЅSТTУYХXԚQԜWѴVӀl" +
  "ΑAΒBΕEΖZΗHΙIΚKΜMΝNΟOΡPΤTΥYΧXαaγyιiνvοoρpσoυu" +
  "ոnսuօoհhցgՕOՍU" +
  "ıiɡgɑaƽs0O1lIl";

const lookAlikes: ReadonlyMap<string, string> = new Map(
  Array.from({ length: pairs.length / 2 }, (_, at) => [pairs.charAt(at * 2), pairs.charAt(at * 2 + 1)]),
);

/** What a name looks like: equal for names that look alike (Unicode TS 39, "skeletons"). */
function skeletonOf(name: string): string {
  let drawn = name;
  // Of printable ASCII, only these are in the table.
  if (!isPrintable(name) || /[01I]/.test(name)) {
    drawn = "";
    for (const letter of name.normalize("NFKC").normalize("NFD")) drawn += lookAlikes.get(letter) ?? letter;
  }
  return keyOf(drawn).replaceAll("rn", "m").replaceAll("vv", "w");
}

function keyOf(name: string): string {
  return isPrintable(name) ? name.trim().replace(/ {2,}/g, " ").toLowerCase() : nameKey(name);
}

/**
 * Keys to compare a name by, which are never shown: readers take two names for one another when one of their keys is the same, by their
 * letters, by how these are written, or by how they look.
 */
export function lookKeys(name: string): readonly string[] {
  const known = keys.get(name);
  if (known !== undefined) return known;
  // A server compares every name with the same others again and again.
  if (keys.size >= mostKeys) keys.clear();
  const made = [keyOf(name), `=${skeletonOf(name)}`];
  keys.set(name, made);
  return made;
}

/** Keys of names that were compared before. */
const keys = new Map<string, readonly string[]>();
const mostKeys = 10_000;

/**
 * Whether every character of a name is seen: no control, no turn of the direction of writing, nothing unassigned or private, and joiners
 * only where they join (Unicode TS 39, §3.1 and §5.4, which allows four marks upon a letter).
 */
export function isSeen(name: string): boolean {
  if (isPrintable(name)) return true;
  const visible = name.replace(joined, "");
  return !/[\p{C}\p{Bidi_Control}\p{Default_Ignorable_Code_Point}\p{Zl}\p{Zp}\u2800]|\p{Mn}{5}/u.test(visible);
}

/** Joiners and the sign for colored drawing, where they do something: in pictures, and in scripts whose letters join. */
const joined =
  /(?<=\p{Extended_Pictographic}|\p{Emoji_Modifier}|\ufe0f)(?:\u200d|\ufe0f)|(?<=[\p{scx=Arabic}\p{scx=Devanagari}\p{scx=Bengali}\p{scx=Malayalam}\p{scx=Sinhala}\p{scx=Kannada}\p{scx=Telugu}\p{scx=Tamil}\p{scx=Gujarati}])(?:\u200c|\u200d)(?=\p{L})/gu;

/** The scripts in use today (Unicode Annex 31, table 5), and those that are written together (Unicode TS 39, §5.2, "highly restrictive"). */
const scripts: readonly RegExp[] = [
  /^[\p{scx=Latin}]+$/u,
  /^[\p{scx=Latin}\p{scx=Han}\p{scx=Hiragana}\p{scx=Katakana}]+$/u,
  /^[\p{scx=Latin}\p{scx=Han}\p{scx=Bopomofo}]+$/u,
  /^[\p{scx=Latin}\p{scx=Han}\p{scx=Hangul}]+$/u,
  ...[
    ...["Arabic", "Armenian", "Bengali", "Cyrillic", "Devanagari", "Ethiopic", "Georgian", "Greek", "Gujarati"],
    ...["Gurmukhi", "Hebrew", "Kannada", "Khmer", "Lao", "Malayalam", "Myanmar", "Oriya", "Sinhala", "Tamil"],
    ...["Telugu", "Thaana", "Thai", "Tibetan"],
  ].map((script) => new RegExp(`^\\p{scx=${script}}+$`, "u")),
];

/** Whether the letters of a name are of one script, or of several that are written together. */
export function isOfOneScript(name: string): boolean {
  const letters = name.replace(/[^\p{L}]|\p{scx=Common}/gu, "");
  return letters === "" || scripts.some((script) => script.test(letters));
}

import type { CommandEntry } from "./output.ts";

/** Every command, in the order people work. */
export const commands: readonly CommandEntry[] = [
  {
    name: "new",
    description: "Make a small catalog that passes and draws, to begin from.",
    load: async () => (await import("./new.ts")).defineNew,
  },
  {
    name: "import",
    description:
      "Bring art in: sheets, strips, one file a frame, packed pictures with a table, drawings in layers. A plan first, then files.",
    load: async () => (await import("./import.ts")).defineImport,
  },
  {
    name: "check",
    description:
      "Find everything that is wrong with a catalog (its files, its references, its art), or with a character's loadout.",
    load: async () => (await import("./check.ts")).defineCheck,
  },
  {
    name: "survey",
    description:
      "See a whole catalog at once: one page with every two parts together, what is drawn, what never meets.",
    load: async () => (await import("./survey.ts")).defineSurvey,
  },
  {
    name: "types",
    description: "Write the ids of a catalog as TypeScript types, so that an id that is not in it does not compile.",
    load: async () => (await import("./types.ts")).defineTypes,
  },
  {
    name: "roll",
    description: "Make valid characters at random; the same seed always makes the same ones.",
    load: async () => (await import("./roll.ts")).defineRoll,
  },
  {
    name: "draw",
    description: "Draw a character at one moment, in motion, or its portrait, token or icons, as a PNG.",
    load: async () => (await import("./draw.ts")).defineDraw,
  },
  {
    name: "bake",
    description:
      "Bake a character into one sheet of frames, with a JSON table of what is where; both named by their content.",
    load: async () => (await import("./bake.ts")).defineBake,
  },
  {
    name: "pack",
    description:
      "Pack a catalog into few files for a game that fetches it: its JSON in one, the art of each body in one picture.",
    load: async () => (await import("./pack.ts")).definePack,
  },
  {
    name: "why",
    description: "Say whether a character can wear a part now and, if not, why, and the fewest edits that lead there.",
    load: async () => (await import("./why.ts")).defineWhy,
  },
  {
    name: "fix",
    description: "Find the fewest edits that make a character's loadout valid, and do them when asked to.",
    load: async () => (await import("./fix.ts")).defineFix,
  },
  {
    name: "share",
    description: "Write the look of a character as a short code that can be sent to anyone who has the game.",
    load: async () => (await import("./share.ts")).defineShare,
  },
  {
    name: "receive",
    description: "Read the look that a code of mantle share holds, and say what of it this catalog does not have.",
    load: async () => (await import("./receive.ts")).defineReceive,
  },
  {
    name: "saves",
    description: "List, show, verify, recover, migrate, export and import the saves in a folder or a database.",
    load: async () => (await import("./saves.ts")).defineSaves,
  },
  {
    name: "completion",
    description: "Print what a shell needs to finish commands and options that are begun.",
    load: async () => (await import("./completion.ts")).completionOf(commands),
  },
];

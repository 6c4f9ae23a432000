import type { CatalogIds } from "./ids.ts";

/** One change to a character, as data, by its verb: the key that names it. */
export interface Edits<Ids extends CatalogIds = CatalogIds> {
  /** Puts a part on, in the slot named or else in the first of its slots that is free. */
  readonly wear: {
    /** The part to put on. */
    readonly wear: Ids["part"];
    /** The slot it goes in. The first of its slots that is free when left out. */
    readonly in?: Ids["slot"];
  };
  /** Empties a slot. */
  readonly remove: {
    /** The slot to empty. */
    readonly remove: Ids["slot"];
  };
  /** Puts the next part that can be worn in a slot, or the one before; wraps, passing by empty unless the slot is required. */
  readonly cycle: { readonly cycle: Ids["slot"]; readonly step: 1 | -1 };
  /** Sets a channel to a ramp, or to a color `#rrggbb` where the channel allows it. */
  readonly paint: {
    /** The channel to set. */
    readonly paint: Ids["channel"];
    /** The ramp it is set to, or a color `#rrggbb`. */
    readonly ramp: Ids["ramp"] | `#${string}`;
  };
  /** Puts a whole outfit on: its parts, then its colors. */
  readonly dress: {
    /** The outfit to put on whole. */
    readonly dress: Ids["outfit"];
  };
  /** Changes the body; what does not fit the new one gives way to its counterpart there, or is taken off. */
  readonly body: {
    /** The body to change to. */
    readonly body: Ids["body"];
  };
  /** Grows up: changes the body to the one it grows into. */
  readonly grow: {
    /** Grows up: changes the body to the one it grows into. */
    readonly grow: true;
  };
  readonly rename: { readonly rename: string };
  /** Keeps an answer of the game's own, such as a trade; `null` forgets it. */
  readonly fact: {
    /** What the answer is kept as. */
    readonly fact: string;
    /** The answer; `null` forgets it. */
    readonly value: string | null;
  };
  /** Becomes what a preset of the catalog shows, with its answers. */
  readonly preset: { readonly preset: Ids["preset"] };
  /** Takes the body, the parts and the colors of a likeness, in place of all there are. */
  readonly appearance: { readonly appearance: Appearance };
  /** Splits a stack in the bag: so many of a part become a stack of their own. */
  readonly split: { readonly split: Ids["part"]; readonly count: number };
  /** Leaves a part that is in the bag behind, for good: all of it, or so many. */
  readonly drop: { readonly drop: Ids["part"]; readonly count?: number };
  /** Pours the stacks of a part in the bag together, into as few as can be. */
  readonly merge: { readonly merge: Ids["part"] };
  /** Does several edits as one: they are judged by what they come to, not one by one. */
  readonly together: { readonly together: readonly Edit<Ids>[] };
}

/** What can be done to a character. */
export type Verb = keyof Edits;

/** An edit of one verb, and of no other. */
export type EditOf<V extends Verb, Ids extends CatalogIds = CatalogIds> = Edits<Ids>[V] & {
  readonly [Other in Exclude<Verb, V>]?: never;
};

/** One change to a character, as data. It has one verb. */
export type Edit<Ids extends CatalogIds = CatalogIds> = { readonly [V in Verb]: EditOf<V, Ids> }[Verb];

/** What a character looks like: everything chosen that can be seen, and nothing of who it is. A character is one. */
export interface Appearance {
  /** The body as it is when left out. */
  readonly body?: string;
  /** Part ids by slot id. */
  readonly loadout: Readonly<Record<string, string>>;
  /** Ramp ids, or colors `#rrggbb`, by channel id. */
  readonly colors: Readonly<Record<string, string>>;
}

/**
 * The ids of a catalog that the compiler knows: a union of them each, or `string` where it knows none.
 *
 * They are known when the content of the catalog has a type of its own: written in TypeScript, or imported as JSON, in which texts have
 * no types of their own, so that of facings, signals and cue words none is known.
 */
export interface CatalogIds {
  readonly part: string;
  readonly slot: string;
  readonly body: string;
  readonly channel: string;
  readonly ramp: string;
  readonly outfit: string;
  readonly preset: string;
  readonly animation: string;
  readonly facing: string;
  /** Signals that rules, forms, cues and steps ask about. */
  readonly signal: string;
  /** Words that cues are raised by. */
  readonly cue: string;
}

/** For the compiler alone: marks what knows the ids of a catalog. */
export declare const idsOf: unique symbol;

/** The section of a catalog that has the ids of a kind as its keys. */
interface SectionOf {
  readonly part: "parts";
  readonly slot: "slots";
  readonly body: "bodies";
  readonly channel: "channels";
  readonly ramp: "ramps";
  readonly outfit: "outfits";
  readonly preset: "presets";
}

/**
 * The ids in the content of a catalog and of the files it includes; `string` when the type of its content does not say which, or when
 * files that it includes were not handed in.
 */
export type IdsIn<Source, Included> = Source extends { readonly mantle: unknown }
  ? Source extends { readonly include: unknown }
    ? [keyof Included] extends [never]
      ? CatalogIds
      : KnownIds<Source, Included>
    : KnownIds<Source, Included>
  : CatalogIds;

type KnownIds<Source, Included> = {
  readonly [Kind in keyof CatalogIds]: string & (IdsOfKind<Kind, Source> | IdsOfKind<Kind, Included[keyof Included]>);
};

type IdsOfKind<Kind extends keyof CatalogIds, File> = unknown extends File
  ? string
  : Kind extends keyof SectionOf
    ? KeysIn<SectionOf[Kind], File>
    : Kind extends "animation"
      ? KeysIn<"animations", RigsIn<File>>
      : Kind extends "facing"
        ? IdIn<ItemsIn<"facings", RigsIn<File>>>
        : Kind extends "cue"
          ? EntryIn<"on", ItemsIn<"cues", File>>
          : SignalsIn<
              EntryIn<"rules", File> | EntryIn<"cues", File> | EntryIn<"forms", File> | EntryIn<"creation", File>
            >;

type EntryIn<Section extends string, File> = File extends { readonly [S in Section]?: infer Entry }
  ? IsAny<Entry> extends true
    ? Entry
    : unknown extends Entry
      ? never
      : NonNullable<Entry>
  : never;

type IsAny<Entry> = 0 extends 1 & Entry ? true : false;

type KeysIn<Section extends string, File> =
  EntryIn<Section, File> extends infer Entry ? (Entry extends object ? keyof Entry & string : never) : never;

type ItemsIn<Section extends string, File> =
  IsAny<EntryIn<Section, File>> extends true
    ? string
    : EntryIn<Section, File> extends readonly (infer Item)[]
      ? Item
      : never;

type RigsIn<File> = EntryIn<"rigs", File> extends infer Rigs ? Rigs[keyof Rigs] : never;

type IdIn<Item> = Item extends { readonly id: infer Id extends string } ? Id : Item extends string ? Item : never;

/** Signals that any text of some content names: `signal:flood`, `{ signal: "stamina" }`. */
type SignalsIn<Content> = Content extends string
  ? string extends Content
    ? string
    : Content extends `signal:${infer Id}=${string}` | `signal:${infer Id}`
      ? Id
      : never
  : Content extends { readonly signal: infer Id extends string }
    ? Id
    : Content extends readonly (infer Item)[]
      ? SignalsIn<Item>
      : Content extends object
        ? SignalsIn<Content[keyof Content]>
        : never;

/** Values of signals, by those that the compiler knows. */
export type SignalsOf<Ids extends CatalogIds, Value> = string extends Ids["signal"]
  ? Readonly<Record<string, Value>>
  : Readonly<Partial<Record<Ids["signal"], Value>>>;

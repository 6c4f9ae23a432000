/**
 * The ids of a catalog that the compiler knows: a union of them each, or `string` where it knows none.
 *
 * They are known when the content of the catalog has a type of its own: written in TypeScript, or imported as JSON.
 */
export interface CatalogIds {
  readonly part: string;
  readonly slot: string;
  readonly body: string;
  readonly channel: string;
  readonly ramp: string;
  readonly outfit: string;
  readonly preset: string;
}

/** The section of a catalog that has the ids of a kind. */
export interface SectionOf {
  readonly part: "parts";
  readonly slot: "slots";
  readonly body: "bodies";
  readonly channel: "channels";
  readonly ramp: "ramps";
  readonly outfit: "outfits";
  readonly preset: "presets";
}

/** The ids in a section of a catalog and of the files it includes; `string` when the type of its content does not say which. */
export type IdsIn<Section extends string, Source, Included> = Source extends { readonly mantle: unknown }
  ? KeysOf<Section, Source> | KeysOf<Section, Included[keyof Included]>
  : string;

type KeysOf<Section extends string, File> = unknown extends File
  ? string
  : File extends { readonly [S in Section]?: infer Entries }
    ? keyof NonNullable<Entries> & string
    : never;

/** What is said about a mesh of a figure: that it belongs to the body, or in which slot it goes as a part. */
export interface PieceChoice {
  /** The id of the part. @defaultValue that of the mesh's name */
  readonly part?: string;
  readonly slot?: string;
  /** A region of the body, which clothes can hide. */
  readonly region?: string;
}

/** What becomes of a mesh. */
export type Choice =
  | { readonly kind: "region"; readonly region: string; readonly channels: Channels }
  | {
      readonly kind: "part";
      readonly part: string;
      readonly slot: string;
      readonly title: string;
      readonly channels: Channels;
    };

/** Channels by the names of materials; `undefined` for none. */
export type Channels = Readonly<Record<string, string>> | undefined;

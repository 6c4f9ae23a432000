/** The pictures of a look that the server makes. */
export const pictureKinds = ["portrait", "token", "sheet"] as const;

export type PictureKind = (typeof pictureKinds)[number];

/** What a picture is made of, and nothing else is. */
export interface PictureOrder {
  readonly kind: PictureKind;
  /** The look, as `shareLook` writes it. */
  readonly code: string;
}

/** Pixels of a picture for each drawn one, on a side. */
export const scales: Readonly<Record<PictureKind, number>> = { portrait: 8, token: 4, sheet: 1 };

/** How the joints that a part follows are found in another skeleton. */
export type SkeletonFit =
  /** All of them are there, by name, in the same pose; `same` if there are no others. */
  | { readonly kind: "same" | "subset" }
  /** All are there, some by another name: what they are called there, by what they are called here. */
  | { readonly kind: "renamed"; readonly names: ReadonlyMap<string, string> }
  /** All are there, and rest otherwise: the joint that differs most, and the names of those that are called otherwise. */
  | {
      readonly kind: "posed";
      readonly joint: string;
      readonly degrees: number;
      readonly units: number;
      readonly names: ReadonlyMap<string, string>;
    }
  | { readonly kind: "missing"; readonly joints: readonly string[] };

declare module "gltf-validator" {
  /** What the validator of the Khronos group says of a file. */
  interface Report {
    readonly issues: { readonly numErrors: number; readonly numWarnings: number };
  }
  const validator: { validateBytes(bytes: Uint8Array): Promise<Report> };
  export = validator;
}

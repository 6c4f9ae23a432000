declare module "gltf-validator" {
  /** What the validator of the Khronos group says of a file. */
  interface Report {
    readonly issues: {
      readonly numErrors: number;
      readonly numWarnings: number;
      /** Errors have severity 0, warnings 1. */
      readonly messages: readonly { readonly code: string; readonly severity: number; readonly pointer: string }[];
    };
  }
  const validator: { validateBytes(bytes: Uint8Array): Promise<Report> };
  export = validator;
}

/** How the analyzer looks at the elements; what it finds is cleaned by `write-manifest.ts`, and the package is left as it is. */
export default {
  globs: ["src/elements/*.ts"],
  outdir: "out/manifest",
  litelement: true,
  packagejson: false,
};

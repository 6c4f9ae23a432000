/**
 * For the build: takes from the templates of the elements what only orders them for whoever reads the sources. Of white space with a line end one
 * line end is left, which a page shows as the same. Of styles their comments go too, space around signs and after colons, the last semicolon of a
 * block, and the zero before a decimal point.
 */
import MagicString from "magic-string";

const shorter = {
  html: (text) => text.replaceAll(/\s*\n\s*/g, "\n"),
  svg: (text) => text.replaceAll(/\s*\n\s*/g, "\n"),
  css: (text) =>
    text
      .replaceAll(/\/\*.*?\*\//gs, "")
      .replaceAll(/\s+/g, " ")
      .replaceAll(/\s*([{};,>])\s*/g, "$1")
      .replaceAll(": ", ":")
      .replaceAll(/([ ,(:])0\./g, "$1.")
      .replaceAll(";}", "}"),
};

/** @type {import("rolldown").Plugin} */
export const shortensTemplates = {
  name: "shortens-templates",
  transform: {
    filter: { id: /[\\/]src[\\/]elements[\\/].*\.ts$/ },
    handler(code, id) {
      const text = new MagicString(code);
      for (const { tag, quasi } of templatesIn(this.parse(code, { lang: "ts" }).body)) {
        const shorten = shorter[tag.name];
        if (shorten === undefined) continue;
        for (const { start, value } of quasi.quasis) {
          const from = code.indexOf(value.raw, start);
          const short = shorten(value.raw);
          if (short !== value.raw) text.update(from, from + value.raw.length, short);
        }
      }
      return text.hasChanged() ? { code: text.toString(), map: text.generateMap({ hires: true, source: id }) } : null;
    },
  },
};

function templatesIn(node) {
  if (node === null || typeof node !== "object") return [];
  if (Array.isArray(node)) return node.flatMap(templatesIn);
  return [
    ...(node.type === "TaggedTemplateExpression" ? [node] : []),
    ...Object.values(node).flatMap((each) => templatesIn(each)),
  ];
}

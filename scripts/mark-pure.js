/**
 * For the build: marks what a module computes once, when it is loaded, as what may be left out where nobody uses it. In one file with others,
 * bundlers would keep it otherwise: they cannot know that a call, or the reading of a property, does nothing else.
 */
import MagicString from "magic-string";

const mark = "/* @__PURE__ */ ";
/** What lies within is not computed when the module is loaded. */
const later = /^(Function|ArrowFunction)(Expression|Declaration)$/;
/** What bundlers take for an effect, whatever is marked within: a property may be a getter, and a text may be made by an object's own method. */
const mayAct = /^(MemberExpression|SpreadElement|BinaryExpression|ChainExpression|Class(Expression|Declaration))$/;

const isTakenForEffect = ({ type, expressions }) =>
  mayAct.test(type) || (type === "TemplateLiteral" && expressions.length > 0);

/** @type {import("rolldown").Plugin} */
export const marksPure = {
  name: "marks-pure",
  transform: {
    // Elements are defined when they are loaded: nobody leaves them out, but for their texts.
    filter: { id: /[\\/]src[\\/](?!elements[\\/](?!english-texts)).*\.ts$/ },
    handler(code, id) {
      const text = new MagicString(code);
      for (const statement of this.parse(code, { lang: "ts" }).body) {
        const declared = statement.type === "ExportNamedDeclaration" ? statement.declaration : statement;
        if (declared?.type !== "VariableDeclaration") continue;
        for (const { init } of declared.declarations) {
          if (init === null) continue;
          if (some(init, isTakenForEffect))
            text.appendLeft(init.start, `${mark}(() => (`).appendRight(init.end, "))()");
          else
            some(init, ({ type, start }) => {
              if (type === "CallExpression" || type === "NewExpression") text.appendLeft(start, mark);
              return false;
            });
        }
      }
      return text.hasChanged() ? { code: text.toString(), map: text.generateMap({ hires: true, source: id }) } : null;
    },
  },
};

/** Whether something holds of any node of an expression that is computed when the module is loaded; types are none. */
function some(node, holds) {
  if (node === null || typeof node !== "object") return false;
  if (Array.isArray(node)) return node.some((each) => some(each, holds));
  if (later.test(node.type) || (node.type?.startsWith("TS") && node.expression === undefined)) return false;
  return (node.type !== undefined && holds(node)) || Object.values(node).some((each) => some(each, holds));
}

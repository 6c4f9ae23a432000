/** Tables of options and elements, from the doc comments of the sources. */
import { readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import ts from "typescript";

type Row = readonly string[];

const at = (name: string) => fileURLToPath(new URL(`../${name}`, import.meta.url));

/** The members of an interface: what each means, and its default. */
export function optionsOf(file: string, name: string): readonly Row[] {
  const source = ts.createSourceFile(file, readFileSync(at(file), "utf8"), ts.ScriptTarget.Latest, true);
  const found = source.statements.find(
    (statement): statement is ts.InterfaceDeclaration =>
      ts.isInterfaceDeclaration(statement) && statement.name.text === name,
  );
  if (found === undefined) throw new Error(`${file} has no interface ${name}.`);
  const rows = found.members.filter(ts.isPropertySignature).map((member) => {
    const option = member.name.getText(source);
    const meaning = sentence(ts.getJSDocCommentsAndTags(member).map(({ comment }) => comment)[0]);
    if (meaning === "") throw new Error(`${file}: ${name}.${option} has no doc comment.`);
    const tag = ts.getJSDocTags(member).find(({ tagName }) => tagName.text === "defaultValue");
    return [`\`${option}\``, meaning, sentence(tag?.comment)];
  });
  return [["option", "meaning", "default"], ...rows];
}

interface Described {
  readonly name: string;
  readonly description?: string;
}

interface Declaration {
  readonly tagName?: string;
  readonly customElement?: boolean;
  readonly members?: readonly (Described & {
    readonly kind: string;
    readonly privacy?: string;
    readonly static?: boolean;
    readonly attribute?: string;
  })[];
  readonly events?: readonly Described[];
  readonly cssParts?: readonly Described[];
  readonly slots?: readonly Described[];
}

/** The elements by their tags, with the tables of their properties, events, slots and parts. */
export function elementTables(): ReadonlyMap<string, readonly Row[]> {
  const { modules } = JSON.parse(readFileSync(at("custom-elements.json"), "utf8")) as {
    readonly modules: readonly { readonly declarations: readonly Declaration[] }[];
  };
  const elements = modules
    .flatMap(({ declarations }) => declarations)
    .filter(({ customElement }) => customElement === true);
  return new Map(elements.map((element) => [element.tagName ?? "", rowsOf(element)]));
}

/** What `::part()` of the elements styles. */
const parts: Readonly<Record<string, string>> = {
  cards: "the cards that are chosen from",
  controls: "the buttons below the figure",
  ends: "the buttons that finish and cancel",
  figure: "the side with the figure",
  header: "the title with its buttons",
  index: "the list of pages",
  ledger: "the side with everything to choose",
  seats: "the seats of the players",
  stage: "the figure itself",
};

function rowsOf({ tagName, members = [], events = [], slots = [], cssParts = [] }: Declaration): readonly Row[] {
  const shown = members.filter(
    ({ kind, privacy, static: isStatic, name }) =>
      kind === "field" && (privacy === undefined || privacy === "public") && isStatic !== true && !name.startsWith("["),
  );
  const rows = (kind: string, of: readonly Described[]) =>
    of.map(({ name, description }) => {
      if (description === undefined) throw new Error(`<${tagName}>: ${kind} ${name} has no doc comment.`);
      return [kind, `\`${name}\``, sentence(description)];
    });
  return [
    ["kind", "name", "meaning"],
    ...rows("property", shown).map(([kind = "", name = "", meaning = ""], place) => {
      const attribute = shown[place]?.attribute;
      return [kind, attribute === undefined ? name : `${name} · \`${attribute}\``, meaning];
    }),
    ...rows("event", events),
    ...rows("slot", slots),
    ...cssParts.map(({ name }) => {
      const meaning = parts[name];
      if (meaning === undefined) throw new Error(`<${tagName}>: nothing is written of the part ${name}.`);
      return ["part", `\`${name}\``, meaning];
    }),
  ];
}

/** A comment on one line, fit for a cell of a table. */
function sentence(comment: string | ts.NodeArray<ts.JSDocComment> | undefined): string {
  const text = typeof comment === "string" ? comment : ts.getTextOfJSDocComment(comment);
  return (text ?? "").replaceAll(/\s+/g, " ").replaceAll("|", "\\|").trim();
}

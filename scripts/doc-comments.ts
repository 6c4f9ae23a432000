import { fileURLToPath } from "node:url";
import ts from "typescript";

type Json = Readonly<Record<string, unknown>>;

/** Keys of a schema that no comment describes, each by its way from the root. */
export class Undescribed extends Error {
  constructor(ways: readonly string[]) {
    super(`Without a doc comment:\n${ways.join("\n")}`);
  }
}

/**
 * Describes the keys of a JSON Schema by the doc comments of a type: schema and type are of the same form, so both are gone through
 * side by side, and nobody has to write a description twice.
 *
 * @param file - the module that exports the type, from the root of the project.
 * @throws Undescribed - where a key has no comment.
 */
export function describeKeys(schema: Json, file: string, type: string): Json {
  const root = fileURLToPath(new URL("..", import.meta.url));
  const path = `${root}${file}`;
  const { options } = ts.parseJsonConfigFileContent(
    ts.readConfigFile(`${root}tsconfig.base.json`, ts.sys.readFile).config,
    ts.sys,
    root,
  );
  const program = ts.createProgram([path], { ...options, noEmit: true, types: [] });
  const checker = program.getTypeChecker();
  const source = program.getSourceFile(path);
  const exported = source && checker.getExportsOfModule(checker.getSymbolAtLocation(source) as ts.Symbol);
  const symbol = exported?.find(({ name }) => name === type);
  if (symbol === undefined) throw new Error(`${file} exports no type ${type}`);

  const definitions = (schema["$defs"] ?? {}) as Readonly<Record<string, Json>>;
  const described: Record<string, Json> = {};
  const missing: string[] = [];

  /** What a type may be, without `undefined` and `null`. */
  const choices = (of: ts.Type): readonly ts.Type[] =>
    (of.isUnion() ? of.types : [of]).filter(
      ({ flags }) => (flags & (ts.TypeFlags.Undefined | ts.TypeFlags.Null)) === 0,
    );
  const isList = (of: ts.Type) => checker.isArrayType(of) || checker.isTupleType(of);
  /** The types of a value, by what leads to it from those around it. */
  const within = (types: readonly ts.Type[], step: (of: ts.Type) => readonly (ts.Type | undefined)[]) =>
    types.flatMap(step).flatMap((of) => (of === undefined ? [] : choices(of)));

  const walk = (node: Json, types: readonly ts.Type[], way: string): Json => {
    const reference = node["$ref"];
    if (typeof reference === "string") {
      const name = reference.slice("#/$defs/".length);
      if (!(name in described)) {
        described[name] = {};
        described[name] = walk(definitions[name] as Json, types, name);
      }
      return node;
    }
    const plain = types.filter((of) => !isList(of));
    const known: Record<string, unknown> = { ...node };
    if (node["anyOf"] !== undefined) known["anyOf"] = (node["anyOf"] as Json[]).map((each) => walk(each, types, way));
    if (node["items"] && node["prefixItems"] === undefined) {
      const items = within(types.filter(isList), (of) => checker.getTypeArguments(of as ts.TypeReference));
      known["items"] = walk(node["items"] as Json, items, `${way}[]`);
    }
    if (typeof node["additionalProperties"] === "object") {
      const others = within(plain, (of) => [of.getStringIndexType()]);
      known["additionalProperties"] = walk(node["additionalProperties"] as Json, others, `${way}.*`);
    }
    if (node["properties"] !== undefined) {
      const properties = Object.entries(node["properties"] as Readonly<Record<string, Json>>).map(([key, value]) => {
        const symbols = plain.flatMap((of) => checker.getPropertyOfType(of, key) ?? []);
        const says = symbols.map((each) => ts.displayPartsToString(each.getDocumentationComment(checker)));
        const description = says.find((each) => each !== "")?.replace(/\s+/g, " ");
        if (description === undefined) missing.push(`${way}.${key}`);
        const values = within(
          [...new Set(symbols)].map((each) => checker.getTypeOfSymbol(each)),
          (of) => [of],
        );
        return [key, { description, ...walk(value, values, `${way}.${key}`) }] as const;
      });
      known["properties"] = Object.fromEntries(properties);
    }
    return known;
  };

  const { $defs, ...rest } = schema;
  const top = walk(rest, choices(checker.getDeclaredTypeOfSymbol(symbol)), type);
  if (missing.length > 0) throw new Undescribed(missing);
  return $defs === undefined ? top : { ...top, $defs: described };
}

import { textIn } from "../core/base/text.ts";
import type { Catalog } from "../core/catalog/model/catalog.ts";
import type { Json } from "../core/save/json.ts";
import type { EntryChange, KeyChange } from "../core/survey/compare/compare-sources.ts";

/** What packs change, as lines for people: what is added section by section, and each entry that is otherwise. */
export function packLines({ packs }: Catalog, changes: readonly EntryChange[]): readonly string[] {
  const names = [...packs.values()].map(({ title, version }) => `${textIn(title)} ${version}`);
  const added = new Map<string, string[]>();
  for (const { section, id, fate } of changes)
    if (fate === "added") added.set(section, [...(added.get(section) ?? []), spoken(id)]);
  return [
    `Laid over it: ${names.join(", ")}.`,
    ...[...added].map(([section, ids]) => `  adds to ${section}: ${ids.join(", ")}`),
    ...changes.filter(({ fate }) => fate !== "added").map(changeLine),
  ];
}

function changeLine({ section, id, fate, keys }: EntryChange): string {
  const [first] = keys;
  if (fate === "removed") return `  takes ${id} from ${section}`;
  if (section === "parts" && keys.length === 1 && first?.pointer === "/retired" && first.after === true)
    return `  retires ${id}`;
  return `  changes ${id} in ${section}: ${keys.map(keyLine).join("; ")}`;
}

/** `price 6 → 4`, `ramps + frost`. */
function keyLine({ pointer, before, after }: KeyChange): string {
  const key = pointer.slice(1).replaceAll("/", ".");
  const lists = Array.isArray(after) && (before === undefined || Array.isArray(before));
  if (!lists) return `${key} ${written(before)} → ${written(after)}`.trim();
  const [was, is] = [before ?? [], after].map((list) => (list as readonly Json[]).map(written));
  const come = is?.filter((item) => was?.includes(item) !== true) ?? [];
  const gone = was?.filter((item) => is?.includes(item) !== true) ?? [];
  return [key, ...come.map((item) => `+ ${item}`), ...gone.map((item) => `− ${item}`)].join(" ");
}

function written(value: Json | undefined): string {
  if (value === undefined) return "nothing";
  return shortened(typeof value === "string" ? value : JSON.stringify(value));
}

/** What has no id is spoken of by what it says. */
function spoken(id: string): string {
  if (!id.startsWith("{")) return id;
  const say: unknown = Object(JSON.parse(id)).say;
  return say === undefined ? shortened(id) : `“${textIn(say as Parameters<typeof textIn>[0])}”`;
}

function shortened(text: string): string {
  return text.length > 60 ? `${text.slice(0, 59)}…` : text;
}

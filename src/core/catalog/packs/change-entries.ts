import { nearestId } from "../../base/nearest-id.ts";
import { type Fix, type Place, type Problem, pointerTo } from "../../base/problem.ts";
import { checkForm } from "../../base/schema/check-form.ts";
import type { Form } from "../../base/schema/forms.ts";
import type { Pack } from "../model/pack.ts";
import { placeIn } from "../read/findings.ts";
import { type Entry, type MapSection, mapSections, type Sources } from "../read/source.ts";
import { fragmentSchema } from "../schema/schema.ts";
import { changeValue, type Touch } from "./change-value.ts";
import type { PackedFile } from "./read-pack.ts";

/** Sections of which nothing is kept in a character, so that an entry may go. */
const removable: ReadonlySet<string> = new Set(["outfits", "forms", "presets", "stats", "tags"]);

/** Sections of which there is one. */
const single = ["creation", "names"] as const;

type Section = MapSection | (typeof single)[number];

/** What one pack changes of one entry. */
interface Change {
  readonly section: Section;
  readonly id: string;
  readonly value: unknown;
  readonly place: Required<Pick<Place, "file" | "pointer">>;
  readonly pack: string;
}

/** Changes entries as packs say, one after another; what two packs set to different values, and neither needs the other, is a conflict. */
export function changeEntries(
  sources: Sources,
  files: readonly PackedFile[],
  packs: ReadonlyMap<string, Pack>,
): { readonly sources: Sources; readonly problems: readonly Problem[]; readonly more: number } {
  const changes = files.flatMap(changesIn);
  if (changes.length === 0) return { sources, problems: [], more: 0 };
  const laying = new Laying(sources, packs);
  for (const change of changes) laying.change(change);
  return laying.finish();
}

function changesIn({ file, content, pack }: PackedFile): readonly Change[] {
  const { changes = {} } = content;
  const ofOne = single.flatMap((section): readonly Change[] => {
    const value = changes[section];
    const place = { file, pointer: pointerTo("changes", section) };
    return value === undefined ? [] : [{ section, id: section, value, place, pack }];
  });
  const ofMany = mapSections.flatMap((section) =>
    Object.entries(changes[section] ?? {}).map(
      ([id, value]): Change => ({
        section,
        id,
        value,
        place: { file, pointer: pointerTo("changes", section, id) },
        pack,
      }),
    ),
  );
  return [...ofOne, ...ofMany];
}

/** A place that was set, by which pack and to what. */
interface Setting {
  readonly change: Change;
  readonly touch: Touch;
}

/** Entries while packs are laid over them. */
class Laying {
  readonly #entries: Map<Section, Map<string, Entry<unknown>>>;
  readonly #sources: Sources;
  readonly #packs: ReadonlyMap<string, Pack>;
  readonly #problems: Problem[] = [];
  /** What was changed, and what it was before. */
  readonly #changed = new Map<string, { section: Section; entry: Entry<unknown>; before: Entry<unknown> }>();
  /** What was set, by entry and pointer in it. */
  readonly #set = new Map<string, Setting[]>();
  #more = 0;

  constructor(sources: Sources, packs: ReadonlyMap<string, Pack>) {
    this.#sources = sources;
    this.#packs = packs;
    // They were gathered for this reading, and are nobody else's.
    const maps = mapSections.map((section) => [section, sources[section] as Map<string, Entry<unknown>>] as const);
    const ones = single.map((section) => {
      const entry = sources[section];
      return [section, new Map<string, Entry<unknown>>(entry === undefined ? [] : [[section, entry]])] as const;
    });
    this.#entries = new Map<Section, Map<string, Entry<unknown>>>([...maps, ...ones]);
  }

  change(change: Change): void {
    const { section, id, value, place, pack } = change;
    const entries = this.#entries.get(section);
    const entry = entries?.get(id);
    if (entries === undefined || entry === undefined) {
      const removed = this.#set.get(section + pointerTo(id));
      if (removed === undefined) this.#problems.push(nothingThere(change, [...(entries?.keys() ?? [])]));
      // What another pack took away stays away; both taking it is no conflict.
      else this.#note(change, { keys: [], value });
      return;
    }
    if (value === null) {
      if (removable.has(section)) {
        // Whoever changed something of it would have it stay.
        const key = section + pointerTo(id);
        const earlier = (entry.changes ?? []).map(({ value: was, pack: by, file, pointer }): Setting => {
          return {
            change: { section, id, value: was, place: { file, pointer }, pack: by },
            touch: { keys: [], value: was },
          };
        });
        this.#set.set(key, [...earlier, ...(this.#set.get(key) ?? [])]);
        this.#note(change, { keys: [], value });
        entries.delete(id);
      } else this.#problems.push(cannotGo(change));
      return;
    }
    const made = changeValue(entry.value, value, (touch) => this.#note(change, touch));
    const changes = [...(entry.changes ?? []), { value, pack, ...place }];
    const { file, pointer } = entry;
    const changed = { id, value: made, file, pointer, pack: entry.pack, changes };
    entries.set(id, changed);
    const key = `${section} ${id}`;
    this.#changed.set(key, { section, entry: changed, before: this.#changed.get(key)?.before ?? entry });
  }

  finish(): { readonly sources: Sources; readonly problems: readonly Problem[]; readonly more: number } {
    // What has no form cannot be read on.
    for (const { section, entry, before } of this.#changed.values())
      if (this.#entries.get(section)?.has(entry.id) && !this.#hasForm(section, entry))
        this.#entries.get(section)?.set(entry.id, before);
    const ones = Object.fromEntries(single.map((section) => [section, this.#entries.get(section)?.get(section)]));
    return { sources: { ...this.#sources, ...ones }, problems: this.#problems, more: this.#more };
  }

  /** Whether what has become of an entry still has its form. */
  #hasForm(section: Section, entry: Entry<unknown>): boolean {
    const isSingle = single.some((each) => each === section);
    const content = { [section]: isSingle ? entry.value : { [entry.id]: entry.value } };
    const { mismatches, beyond, more } = checkForm(fragmentSchema as Form, content);
    this.#more += more + beyond.length;
    for (const { path, ...mismatch } of mismatches) {
      const keys = path.slice(isSingle ? 1 : 2);
      // A key that is not known is one of the entry itself: whoever wrote it is meant.
      const [unknown] = keys.length === 0 ? [mismatch.params["keys"] ?? mismatch.params["key"] ?? []].flat() : [];
      const { file, pointer } = placeIn(entry, unknown === undefined ? keys : [String(unknown)]);
      const place = { ...(file && { file }), pointer: unknown === undefined ? pointer : parentOf(pointer) };
      this.#problems.push({ ...mismatch, severity: "error", place });
    }
    return mismatches.length + beyond.length === 0;
  }

  /** Notes what a pack sets, and what another pack, which it does not need, set otherwise. */
  #note(change: Change, touch: Touch): void {
    const key = `${change.section}${pointerTo(change.id, ...touch.keys)}`;
    const before = this.#set.get(key) ?? [];
    this.#set.set(key, [...before, { change, touch }]);
    const other = before.findLast(
      (each) =>
        each.change.pack !== change.pack &&
        JSON.stringify(each.touch.value) !== JSON.stringify(touch.value) &&
        !this.#isLaidUpon(change.pack, each.change.pack),
    );
    if (other === undefined) return;
    this.#problems.push({
      code: "conflicting-changes",
      params: {
        id: change.id,
        key: touch.keys.join(".") || change.section,
        pack: change.pack,
        other: other.change.pack,
      },
      severity: "warning",
      place: placeOf(change, touch),
      related: [placeOf(other.change, other.touch)],
      fixes: [{ code: "mend-conflicting-changes", params: { pack: change.pack, other: other.change.pack } }],
    });
  }

  /** Whether a pack needs another, itself or by way of others. */
  #isLaidUpon(pack: string, other: string): boolean {
    const needs = this.#packs.get(pack)?.needs ?? [];
    return needs.some((each) => each === other || this.#isLaidUpon(each, other));
  }
}

function parentOf(pointer: string): string {
  return pointer.slice(0, pointer.lastIndexOf("/"));
}

function placeOf({ place }: Change, { keys }: Touch): Place {
  return { file: place.file, pointer: place.pointer + pointerTo(...keys) };
}

function nothingThere({ section, id, place }: Change, known: readonly string[]): Problem {
  const meant = nearestId(id, known);
  const fix: Fix =
    meant === undefined
      ? { code: "mend-nothing-to-change", params: { section } }
      : { code: "meant-id", params: { meant } };
  return { code: "nothing-to-change", params: { id, section }, severity: "error", place, fixes: [fix] };
}

function cannotGo({ section, id, place }: Change): Problem {
  const fixes: readonly Fix[] = [
    section === "parts"
      ? { code: "retire-part", params: {} }
      : { code: "mend-cannot-remove-entry", params: { section } },
  ];
  return { code: "cannot-remove-entry", params: { id, section }, severity: "error", place, fixes };
}

import { getOrInsert } from "../base/get-or-insert.ts";
import { shorten } from "../base/limits.ts";
import { type Message, message } from "../base/message.ts";
import { MantleError, type Problem } from "../base/problem.ts";
import type { Json } from "./json.ts";
import type { Migration } from "./migrations.ts";
import { decodeSave, encodeSave, type Opened, removedKind } from "./seal.ts";
import { conflictError, type Generation, type Store } from "./store.ts";

/** What was found under a key: the newest generation that can be used, and what was wrong with newer ones. */
export interface FoundSave {
  /** What it holds; `"removed"` for a save that was removed. */
  readonly kind: string | undefined;
  /** `undefined` when there is no save, none that can be used, or it was removed. */
  readonly content: Json | undefined;
  /** Of the newest generation, whether it can be used or not; 0 when there is none. */
  readonly revision: number;
  readonly problems: readonly Problem[];
}

export interface ReadSaveOptions {
  /** Of the game's own kinds: what has an older form is given in the newest. @defaultValue none */
  readonly migrations?: readonly Migration[];
}

export interface WriteSaveOptions {
  /**
   * The revision that was read or written last by this writer. When the store has a newer one with other content, nothing is written.
   *
   * @defaultValue whatever is stored is replaced
   */
  readonly after?: number;
}

/**
 * Reads a save. A generation that cannot be used is reported, and the one before it is used.
 *
 * @param kind - what the save must hold, for example `"character"`; anything when left out.
 * @throws whatever the store failed with; MantleError `bad-migration`.
 */
export async function readSave(
  store: Store,
  key: string,
  kind?: string,
  { migrations = [] }: ReadSaveOptions = {},
): Promise<FoundSave> {
  const problems: Problem[] = [];
  const generations = await store.read(key);
  const revision = generations[0]?.revision ?? 0;
  for (const [age, generation] of generations.entries()) {
    const opened = openGeneration(generation, key, kind, migrations);
    if (opened.ok) {
      if (opened.kind === removedKind) return { kind: removedKind, content: undefined, revision, problems };
      // The second generation of a first save is a copy, so nothing is lost where it is not there, as after an interruption.
      if (generations.length === 1 && revision > 1) problems.push(loneGeneration(key, revision));
      return { kind: opened.kind, content: opened.content, revision, problems };
    }
    problems.push(unusable(key, generation, opened, age < generations.length - 1));
  }
  return { kind: undefined, content: undefined, revision, problems };
}

/**
 * Writes a save and keeps the newest whole one before it. What is stored already is not written again. A generation that a newer version
 * of this library wrote, or that cannot be read now, is never removed; a damaged one stays until there is a whole one before the newest.
 *
 * @returns the revision that holds the content.
 * @throws MantleError `changed-elsewhere` when another writer stored other content after `after`; whatever the store failed with.
 */
export async function writeSave(
  store: Store,
  key: string,
  kind: string,
  content: Json,
  options: WriteSaveOptions = {},
): Promise<number> {
  if (kind === removedKind) throw new MantleError("bad-content", `"${removedKind}" is no kind of a game's own.`);
  return write(store, key, kind, content, options);
}

/**
 * Removes a save. Its key keeps its revision, so a program that has not learned of it cannot store the save again by mistake; and every
 * device that has the save learns that it was removed. Where there is no save, nothing is done.
 *
 * @returns the revision that says that it was removed; 0 where nothing was ever stored.
 * @throws MantleError `changed-elsewhere` when another writer stored something after `after`; whatever the store failed with.
 */
export async function removeSave(store: Store, key: string, options: WriteSaveOptions = {}): Promise<number> {
  return write(store, key, removedKind, null, options);
}

async function write(
  store: Store,
  key: string,
  kind: string,
  content: Json,
  { after }: WriteSaveOptions,
): Promise<number> {
  const isRemoval = kind === removedKind;
  const sealed = (revision: number): Stored => ({ revision, text: encodeSave(kind, content, { key, revision }) });
  const known = getOrInsert(written, store, () => new Map<string, Written>());
  const last = known.get(key);
  const plain = JSON.stringify([kind, content]);
  const isStored = (generation: Stored, keep: readonly number[]) =>
    store.write(key, generation, keep).then(() => true, falseIfChanged);
  // A removal is rare, and looks at what it removes.
  if (!isRemoval && last !== undefined && last.content !== plain && (after === undefined || after === last.revision)) {
    const revision = last.revision + 1;
    if (await isStored(sealed(revision), [last.revision, ...last.lasting])) {
      known.set(key, { ...last, revision, content: plain });
      return revision;
    }
  }
  known.delete(key);
  for (let refused = 0; ; ) {
    const before = await store.read(key);
    const [newest] = before;
    // Where another writer stored the same, as pages that share their changes do, both have what they want.
    if (newest !== undefined && newest.text === sealed(newest.revision).text) return newest.revision;
    if (newest === undefined && isRemoval) return 0;
    const top = newest?.revision ?? 0;
    if (top < refused || (after !== undefined && top > after)) throw conflictError(key);
    let revision = Math.max(top, after ?? 0) + 1;
    const keep = (isRemoval ? lastingIn : generationsToKeep)(before, key, kind);
    if (!(await isStored(sealed(revision), keep))) {
      refused = revision;
      continue;
    }
    // The first is stored twice: so each save has two generations always, and one that is gone is noticed.
    if (newest === undefined) {
      await store.write(key, sealed(revision + 1), [revision]);
      revision += 1;
    }
    if (!isRemoval) known.set(key, { revision, content: plain, lasting: lastingIn(before, key, kind) });
    return revision;
  }
}

/** A generation that can be read. */
type Stored = Extract<Generation, { text: string }>;

/** What this program wrote last under a key: so it need not be read before the next writing. The store refuses that if it has changed. */
interface Written {
  readonly revision: number;
  /** Its kind and content, as JSON. */
  readonly content: string;
  /** Revisions that are never removed. */
  readonly lasting: readonly number[];
}

const written = new WeakMap<Store, Map<string, Written>>();

function falseIfChanged(error: unknown): false {
  if (error instanceof MantleError && error.code === "changed-elsewhere") return false;
  throw error;
}

/** The newest whole generation, or else the newest; and those that are never removed. */
function generationsToKeep(generations: readonly Generation[], key: string, kind: string): readonly number[] {
  const whole = generations.find((each) => openGeneration(each, key, kind).ok) ?? generations[0];
  const revisions = [...(whole === undefined ? [] : [whole.revision]), ...lastingIn(generations, key, kind)];
  return [...new Set(revisions)];
}

/**
 * The generations that are never removed: what cannot be used here and now. Where a removed save was stored again, the removal is kept, too:
 * what came before it is not the same save.
 */
function lastingIn(generations: readonly Generation[], key: string, kind: string): readonly number[] {
  return generations.flatMap((generation) => {
    const opened = openGeneration(generation, key, kind);
    const isLasting = opened.ok ? opened.kind === removedKind && kind !== removedKind : lasting.has(opened.code);
    return isLasting ? [generation.revision] : [];
  });
}

/** What may be of use to somebody else, or later. */
const lasting: ReadonlySet<string> = new Set(["newer-save", "unreadable-save"]);

/** Opens a generation where it was found: one that belongs elsewhere, or holds a newer form, is refused. */
function openGeneration(
  generation: Generation,
  key: string,
  kind: string | undefined,
  migrations: readonly Migration[] = [],
): Opened | Unusable {
  if (generation.text === undefined)
    return { ok: false, code: "unreadable-save", reason: message("save-unreadable", { reason: generation.because }) };
  const opened = decodeSave(generation.text, kind, migrations);
  if (!opened.ok) return opened;
  const { address } = opened;
  if (address === undefined) return { ok: false, code: "misplaced-save", reason: message("save-not-here") };
  if (address.key === key && address.revision === generation.revision) return opened;
  const reason = message("save-of-another", { revision: address.revision, key: shorten(address.key) });
  return { ok: false, code: "misplaced-save", reason };
}

/** A generation that cannot be used where it was found. */
type Unusable =
  | Extract<Opened, { ok: false }>
  | { readonly ok: false; readonly code: "misplaced-save" | "unreadable-save"; readonly reason: Message };

function unusable(key: string, { revision }: Generation, { code, reason }: Unusable, hasOlder: boolean): Problem {
  const last = code === "newer-save" ? "open-with-newer" : "restore-save";
  return {
    code,
    params: { revision, key, reason },
    severity: hasOlder ? "warning" : "error",
    place: { file: key, pointer: "" },
    fixes: [{ code: hasOlder ? "use-older" : last, params: {} }],
  };
}

/** A save has two generations always; where one is gone, it may be the newest. */
function loneGeneration(key: string, revision: number): Problem {
  return {
    code: "missing-generation",
    params: { key, revision },
    severity: "warning",
    place: { file: key, pointer: "" },
    fixes: [{ code: "mend-missing-generation", params: {} }],
  };
}

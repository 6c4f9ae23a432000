import type { ImageLoader } from "../browser/image-loader.ts";
import { MantleError } from "../core/base/problem.ts";
import type { Catalog } from "../core/catalog/model/catalog.ts";
import type { Character } from "../core/character/character.ts";
import { type FittingOptions, openFitting } from "../core/create/fitting.ts";
import { openSteps } from "../core/create/steps.ts";
import { createCharacter } from "../core/edits/create-character.ts";
import type { Session } from "../core/play/session.ts";
import type { CharacterEvent } from "./character-event.ts";
import { MantleEquipment } from "./equipment-screen.ts";
import { MantleFitting } from "./fitting-screen.ts";
import { MantleRoster } from "./roster-screen.ts";
import type { ScreenElement } from "./screen-element.ts";
import { MantleSeats, type StartEvent } from "./seats-screen.ts";
import { MantleSteps } from "./steps-screen.ts";

/** What comes of each screen. */
export interface ScreenResults {
  /** Somebody new, who is in the roster and sits in the seat. */
  readonly steps: Character;
  /** Who sits in the seat, or was named, as changed. */
  readonly fitting: Character;
  readonly equipment: Character;
  /** Whom the player chose, who sits in the seat. */
  readonly roster: Character;
  /** Who picked whom, by seat: ids of characters. */
  readonly seats: ReadonlyMap<number, string>;
}

/** The name of a screen that can be opened. */
export type ScreenName = keyof ScreenResults;

export interface OpenScreenOptions {
  readonly session: Session;
  readonly loader: ImageLoader;
  /** The seat of the player who uses it. @defaultValue `1` */
  readonly seat?: number;
  /** Whom a fitting or the equipment is for. @defaultValue who sits in the seat; in a fitting, somebody new where nobody does */
  readonly character?: string;
  /** The body that somebody new begins with. @defaultValue the first of the catalog */
  readonly body?: string;
  /** How a fitting takes edits that would break a rule, and how many places its bag has. */
  readonly fitting?: Pick<FittingOptions, "drafts" | "bagPlaces" | "solver">;
  /** A catalog that somebody works on while the game runs, as `openLiveCatalog` opens it: its changes are taken over. */
  readonly live?: { on(event: "change", listener: (live: { readonly catalog: Catalog }) => void): () => void };
  /** What else the screen has: `heading`, `language`, `texts`, `backdrop` and whatever its element takes. */
  readonly properties?: Readonly<Record<string, unknown>>;
  /** Where on the page it is. @defaultValue over the whole page */
  readonly within?: Element;
  /** Closes it from outside, as if the player had given up. */
  readonly signal?: AbortSignal;
}

/**
 * Opens a screen over the game, and takes it away again: it has the input while it is open, and what comes of it is in the session and stored.
 *
 * @returns what came of it once it is stored; `undefined` where the player gave up, or it was taken off the page. From the roster, players come to a
 * fitting and to the creation of somebody new, and back.
 * @throws MantleError `bad-call` where a screen needs a character and there is none; what the store failed with: the session has the change then, and
 * the next flush stores it.
 * @example
 * const character = await openScreen("fitting", { session, seat: 1, loader })
 */
export async function openScreen<Name extends ScreenName>(
  name: Name,
  options: OpenScreenOptions,
): Promise<ScreenResults[Name] | undefined> {
  const { session, live, signal, within } = options;
  const ends = new AbortController();
  const { element, update, keep } = openers[name](options, ends.signal);
  const stop = live?.on("change", ({ catalog }) => {
    session.update({ catalog });
    update?.(catalog);
  });
  Object.assign(element, { loader: options.loader, modal: true, ...options.properties });
  if (within === undefined) Object.assign(element.style, { position: "fixed", inset: "0", zIndex: "1" });
  try {
    const result = await shown(element, within ?? document.body, { closes: signal, until: ends.signal });
    if (result === undefined) return undefined;
    keep?.(result as Character);
    await session.flush();
    return result as ScreenResults[Name];
  } finally {
    stop?.();
    ends.abort();
    element.remove();
  }
}

/** What a screen that another one opens is asked for besides: somebody new, whoever sits in the seat. */
interface Asked extends OpenScreenOptions {
  readonly isNew?: boolean;
}

/** An element that is to be shown, what takes over another catalog, and what puts a finished character into the session. */
interface Opened {
  readonly element: ScreenElement;
  readonly keep?: (character: Character) => void;
  readonly update?: (catalog: Catalog) => void;
}

/** How each screen is made. What a roster asks for is opened until the signal. */
const openers: { readonly [Name in ScreenName]: (options: Asked, until: AbortSignal) => Opened } = {
  steps({ session, seat = 1, body, fitting }) {
    const element = new MantleSteps();
    const { catalog } = session;
    const context = { ...contextOf(session, seat), ...(fitting?.solver && { solver: fitting.solver }) };
    element.steps = openSteps(
      catalog,
      createCharacter(catalog, { body: body ?? firstBody(catalog), ...context }),
      context,
    );
    return { element, keep: (character) => put(session, seat, character) };
  },
  fitting: (options) => openDressing(new MantleFitting(), options),
  equipment: (options) => openDressing(new MantleEquipment(), options, "bag"),
  roster({ session, seat = 1, character: _, ...others }, signal) {
    const element = Object.assign(new MantleRoster(), { session, seat });
    const open = (name: "steps" | "fitting", more: Pick<Asked, "character" | "isNew">) =>
      void openScreen(name, { ...others, session, seat, signal, ...more } as Asked).catch(reportError);
    const add = () => open(session.catalog.creation === undefined ? "fitting" : "steps", { isNew: true });
    element.addEventListener("mantle-edit", ({ character }) => open("fitting", { character: character.id }), {
      signal,
    });
    element.addEventListener("mantle-add", add, { signal });
    return { element };
  },
  seats({ session }) {
    const element = new MantleSeats();
    element.session = session;
    return { element };
  },
};

function openDressing(
  element: MantleFitting | MantleEquipment,
  { session, seat = 1, body, isNew = false, fitting: options = {}, ...asked }: Asked,
  wardrobe?: "bag",
): Opened {
  const { catalog } = session;
  const id = asked.character ?? (isNew ? undefined : session.seat(seat).character?.id);
  const known = session.characters.find((each) => each.id === id);
  if (known === undefined && (asked.character !== undefined || wardrobe === "bag"))
    throw new MantleError(
      "bad-call",
      `There is no character "${id ?? ""}" for this screen. Seat one first, or name one.`,
    );
  const context = { ...contextOf(session, seat, known?.id), ...options, ...(wardrobe && { wardrobe }) };
  const begun = known ?? createCharacter(catalog, { body: body ?? firstBody(catalog), ...context });
  const fitting = openFitting(catalog, begun, context);
  element.fitting = fitting;
  // Whoever was removed meanwhile, as on another page, comes back as somebody new.
  const keep = (character: Character) => {
    const isThere = [...session.characters, ...session.retired].some((each) => each.id === character.id);
    if (isThere) session.replace(character);
    else put(session, seat, character);
  };
  return { element, keep, update: (changed) => fitting.update({ catalog: changed }) };
}

/** What edits of somebody in a seat are judged by: the names of the others are taken, as in `session.edit`. */
function contextOf(session: Session, seat: number, id?: string) {
  const { context, characters, retired } = session;
  const others = [...characters, ...retired].filter((each) => each.id !== id).map(({ name }) => name);
  const names = { ...context.names, taken: [...(context.names?.taken ?? []), ...others] };
  return { ...context, names, signals: session.seat(seat).signals };
}

function firstBody({ bodies }: Catalog): string {
  return bodies.keys().next().value ?? "";
}

/** Adds somebody new, and seats them. */
function put(session: Session, seat: number, character: Character): void {
  session.together(() => {
    session.add(character);
    session.seat(seat).take(character.id);
  });
}

/** Shows a screen until it ends. Resolves with what it fired; with nothing where it was given up, closed, or taken away. */
function shown(
  element: ScreenElement,
  parent: Element,
  { closes, until }: { readonly closes: AbortSignal | undefined; readonly until: AbortSignal },
): Promise<unknown> {
  return new Promise((resolve) => {
    const gone = new MutationObserver(() => element.isConnected || end(undefined));
    const end = (result: unknown) => {
      gone.disconnect();
      resolve(result);
    };
    const giveUp = () => end(undefined);
    element.addEventListener("mantle-finish", (event) => end((event as CharacterEvent).character));
    element.addEventListener("mantle-start", (event) => end((event as StartEvent).picks));
    for (const name of ["mantle-leave", "mantle-close"]) element.addEventListener(name, giveUp);
    closes?.addEventListener("abort", giveUp, { signal: until });
    if (closes?.aborted === true) return giveUp();
    parent.append(element);
    gone.observe(parent, { childList: true });
  });
}

import { readCharacter } from "../core/character/read-character.ts";
import type { Session } from "../core/play/session.ts";

/** What one page tells the others. */
interface Told {
  readonly catalog: string;
  readonly characters: readonly unknown[];
  readonly retired: readonly string[];
  readonly order: readonly string[];
  readonly seats: readonly (readonly [number, string | null])[];
}

/**
 * Keeps the sessions of several pages of one game in agreement: what changes in one changes in all.
 *
 * Each change is told whole, so that pages that missed one agree after the next; the last change counts. Signals and devices are each
 * page's own.
 *
 * @param name - the same in all pages of the game, and no other's.
 * @returns what stops it.
 */
export function shareTabs(session: Session, name: string): () => void {
  const channel = new BroadcastChannel(`zealous-mantle ${name}`);
  const known = new Set<number>();
  let isHearing = false;
  let isTelling = false;
  const tell = () => {
    isTelling = false;
    for (const { number } of session.seats) known.add(number);
    const told: Told = {
      catalog: session.catalog.id,
      characters: [...session.characters, ...session.retired],
      retired: session.retired.map(({ id }) => id),
      order: session.characters.map(({ id }) => id),
      seats: [...known].map((number) => [number, session.seat(number).character?.id ?? null]),
    };
    channel.postMessage(told);
  };
  const stop = session.on("change", () => {
    if (isHearing || isTelling) return;
    isTelling = true;
    queueMicrotask(tell);
  });
  channel.onmessage = ({ data }: MessageEvent<Told>) => {
    if (data.catalog !== session.catalog.id) return;
    isHearing = true;
    try {
      hear(session, data);
    } finally {
      isHearing = false;
    }
  };
  return () => {
    stop();
    channel.close();
  };
}

function hear(session: Session, { characters, retired, order, seats }: Told): void {
  const all = () => [...session.characters, ...session.retired];
  for (const told of characters) {
    const { character } = readCharacter(told);
    const known = all().find(({ id }) => id === character?.id);
    if (character !== undefined && JSON.stringify(known) !== JSON.stringify(character)) session.keep(character);
  }
  for (const { id } of session.characters) if (retired.includes(id)) session.retire(id);
  for (const { id } of session.retired) if (!retired.includes(id)) session.restore(id);
  for (const [place, id] of order.entries()) if (session.characters[place]?.id !== id) session.move(id, place);
  // First everyone who leaves, so that no seat is in the way of another.
  for (const [number, id] of seats)
    if (id === null || session.seat(number).character?.id !== id) session.seat(number).free();
  for (const [number, id] of seats)
    if (id !== null && session.seat(number).character?.id !== id) session.seat(number).take(id);
}

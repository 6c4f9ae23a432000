import { type Figure, openFigure, type Session } from "zealous-mantle";
import { type Action, type Controls, canvasPainter } from "zealous-mantle/browser";
import { pointerDevice } from "zealous-mantle/elements";
import { byId, contextOf, make } from "../shared/dom.ts";
import { loader } from "../shared/saltmarsh.ts";
import { benches, hull, paintChannel, paintHullBefore, paintHullBehind, paintOar } from "./channel.ts";

/** A player in the boat: the seat is theirs, whoever they are now. */
interface Rower {
  readonly seat: number;
  readonly figure: Figure;
  readonly tag: HTMLElement;
  /** Seconds since the oar was pulled. */
  pulled: number;
}

/** How far it is, in pixels. */
const whole = 900;
/** Seconds a stroke takes, and in which strokes are one. */
const stroke = { takes: 0.8, together: 0.3 };

/**
 * Rows the ferry with whoever has a seat; resolves when nobody is left. A press pulls the oar, and oars that are pulled together pull
 * harder. Sideways, control passes along the benches: the figures stay where they stand, and the players are others. Whoever
 * presses without a seat comes aboard, and whoever goes back goes ashore.
 */
export function crossOver(session: Session, controls: Controls): Promise<void> {
  const canvas = byId("scene", HTMLCanvasElement);
  const context = contextOf(canvas);
  const painter = canvasPainter(loader.images);
  const still = matchMedia("(prefers-reduced-motion: reduce)");
  const places = benches.map((x) => ({ x, y: hull.deck }));
  const rowers = new Map<number, Rower>();
  /** Who stands at which bench: a figure keeps its own, whoever moves it. */
  const benchOf = new Map<string, number>();
  const pointing = byId("pointing", HTMLDivElement);
  const boat = { passed: 0, speed: 0, way: 1, seconds: 0 };

  const facing = () => (boat.way > 0 ? "east" : "west");
  const aboard = () => session.seats.filter(({ device, character }) => device !== undefined && character !== undefined);
  const seatAll = () => {
    const here = aboard();
    for (const id of benchOf.keys()) if (!here.some(({ character }) => character?.id === id)) benchOf.delete(id);
    for (const [number, rower] of rowers) {
      if (here.some((seat) => seat.number === number)) continue;
      rower.figure.close();
      rower.tag.remove();
      rowers.delete(number);
    }
    for (const { number, character } of here) {
      const id = character?.id ?? "";
      const free = benches.findIndex((_, bench) => ![...benchOf.values()].includes(bench));
      if (!benchOf.has(id) && free >= 0) benchOf.set(id, free);
      const at = places[benchOf.get(id) ?? 0] ?? { x: 0, y: 0 };
      const rower = rowers.get(number) ?? board(number);
      rower.figure.at = at;
      rower.tag.style.left = `${(at.x / canvas.width) * 100}%`;
      rower.tag.textContent = `${number} ${character?.name ?? ""}`;
      rower.tag.dataset["who"] = id;
    }
    pointing.hidden = !here.some(({ device }) => device === pointerDevice);
  };
  const board = (seat: number): Rower => {
    const tag = make("span", { className: "tag" });
    tag.dataset["seat"] = String(seat);
    byId("tags", HTMLDivElement).append(tag);
    const rower = {
      seat,
      figure: openFigure({ session, seat, loader, animation: "idle", facing: facing() }),
      tag,
      pulled: Number.POSITIVE_INFINITY,
    };
    rowers.set(seat, rower);
    return rower;
  };

  const pull = (rower: Rower) => {
    if (rower.pulled < stroke.takes || hasLanded()) return;
    rower.pulled = 0;
    rower.figure.animation = "idle";
    rower.figure.animation = "row";
    const together = [...rowers.values()].filter(({ pulled }) => pulled < stroke.together).length;
    boat.speed += boat.way * (6 + 5 * together);
    if (together > 1) say(together === rowers.size ? "All together." : `${together} together.`);
  };
  /** Control passes to who stands at the next bench that way. */
  const pass = (rower: Rower, by: 1 | -1) => {
    const bench = benchOf.get(session.seat(rower.seat).character?.id ?? "") ?? 0;
    const [other] = [...benchOf].find(([, at]) => at === bench + by) ?? [];
    if (other === undefined) return say("Nobody stands there.");
    const [outcome] = session.raise("pass:oar", { by: "player", with: other }, { seat: rower.seat });
    if (outcome?.ok) say(`Seat ${rower.seat} is ${session.seat(rower.seat).character?.name} now.`);
  };
  const comeAboard = (device: string) => {
    const seat = session.join(device);
    const taken = aboard().map(({ character }) => character?.id);
    const free = session.characters.find(({ id }) => !taken.includes(id));
    if (seat === undefined) return;
    if (free === undefined) {
      session.leave(device);
      return say("Nobody is left to row.");
    }
    for (const other of session.seats) if (other.device === undefined && other.character === free) other.leave();
    seat.take(free.id);
    say(`${free.name} comes aboard.`);
  };
  const hasLanded = () => (boat.way > 0 ? boat.passed >= whole : boat.passed <= 0);
  const turnAround = () => {
    boat.way = -boat.way;
    boat.seconds = 0;
    for (const { figure } of rowers.values()) figure.facing = facing();
    say("And back again.");
  };
  const press = (device: string, action: Action): boolean => {
    const seat = session.seats.find((each) => each.device === device);
    const rower = rowers.get(seat?.number ?? 0);
    if (rower === undefined) {
      if (action === "act") comeAboard(device);
      return action === "act";
    }
    if (action === "act" && hasLanded()) turnAround();
    else if (action === "act") pull(rower);
    else if (action === "back") session.leave(device);
    else if (action === "left" || action === "right") pass(rower, action === "right" ? 1 : -1);
    return true;
  };

  const advance = (seconds: number) => {
    const before = hasLanded();
    boat.passed = Math.max(0, Math.min(whole, boat.passed + boat.speed * seconds));
    boat.speed *= 0.5 ** seconds;
    if (hasLanded()) boat.speed = 0;
    else boat.seconds += seconds;
    if (hasLanded() && !before) say(`Landed after ${Math.round(boat.seconds)} seconds. Pull to row back.`);
    for (const rower of rowers.values()) {
      rower.pulled += seconds;
      if (rower.pulled >= stroke.takes) rower.figure.animation = "idle";
      rower.figure.advance(seconds);
    }
  };
  const paint = (time: number) => {
    const bob = Math.round(Math.sin(time * 1.6));
    for (const place of places) place.y = hull.deck + 4 + bob;
    paintChannel(context, canvas.width, canvas.height, time, boat.passed, whole);
    paintHullBehind(context, bob);
    for (const { figure } of rowers.values()) figure.paint(context, painter);
    paintHullBefore(context, bob, time, boat.speed, canvas.width);
    for (const { figure, tag, pulled } of rowers.values()) {
      const crown = figure.point("crown")?.y ?? 0;
      // In steps, so that a name does not nod with its head.
      tag.style.top = `${((Math.floor(crown / 8) * 8 - 24) / canvas.height) * 100}%`;
      const hand = figure.point("hand-right") ?? figure.point("hand-left");
      const isPulling = pulled < stroke.takes;
      const lean = isPulling ? Math.cos((pulled / stroke.takes) * Math.PI) * boat.way : 0;
      if (hand !== undefined) paintOar(context, Math.round(hand.x), Math.round(hand.y), lean, isPulling);
    }
    byId("way", HTMLProgressElement).value = boat.passed / whole;
    Object.assign(canvas.dataset, { passed: String(Math.round(boat.passed)), rowers: String(rowers.size) });
  };

  return new Promise((leave) => {
    const stopPresses = controls.on("press", ({ device, action }) => press(device, action));
    const stopSeats = session.on("seat", seatAll);
    pointing.onclick = ({ target }) => {
      const { action } = (target as HTMLElement).dataset;
      if (action === "act" || action === "left" || action === "right" || action === "back")
        press(pointerDevice, action);
    };
    seatAll();
    say("Pull together.");
    let last = performance.now();
    const tick = (now: number) => {
      advance(Math.min(0.1, (now - last) / 1000));
      last = now;
      paint(still.matches ? 0 : now / 1000);
      if (rowers.size > 0) {
        requestAnimationFrame(tick);
        return;
      }
      stopPresses();
      stopSeats();
      leave();
    };
    requestAnimationFrame(tick);
  });
}

function say(text: string): void {
  byId("said", HTMLParagraphElement).textContent = text;
}

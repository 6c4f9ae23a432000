import { MantleError } from "../base/problem.ts";
import type { Seating } from "./seating.ts";
import type { Seat } from "./session.ts";

/** The seats of a session as others see them, by number: the same object each time. */
export function seatObjects(seating: Seating): (number: number) => Seat {
  const seats = new Map<number, Seat>();
  return (number) => {
    // Asked for each frame, so without a function made for the purpose.
    const known = seats.get(number);
    if (known !== undefined) return known;
    if (!Number.isInteger(number) || number < 1)
      throw new MantleError("bad-seat", `${number} is not a seat. Seats are numbered from 1.`);
    const made = seatObject(seating, number);
    seats.set(number, made);
    return made;
  };
}

function seatObject(seating: Seating, number: number): Seat {
  return {
    number,
    get device() {
      return seating.deviceOf(number);
    },
    get character() {
      return seating.characterAt(number);
    },
    get look() {
      return seating.lookAt(number);
    },
    get problems() {
      return seating.problemsAt(number);
    },
    get signals() {
      return seating.signalsAt(number);
    },
    take: (id) => seating.take(number, id),
    leave: () => seating.free(number),
    signal: (more) => seating.signal(more, number),
  };
}

import type { Look } from "./look.ts";

/** The look that stands for all that look the same, and how many of its frames are kept. */
export interface Representative {
  readonly look: Look;
  frames: number;
}

/** Finds the one of all looks that look the same by whose frames all of them are drawn, as long as any of those are kept. */
export class Representatives<Kept extends Representative> {
  readonly #byKey = new Map<string, Kept>();
  readonly #known = new WeakMap<Look, Kept>();
  readonly #make: (look: Look) => Kept;

  /** @param make - the representative of a look that none is like. */
  constructor(make: (look: Look) => Kept) {
    this.#make = make;
  }

  of(look: Look): Kept {
    const known = this.#known.get(look);
    if (known !== undefined) return known;
    const alike = this.#byKey.get(look.key);
    // What looks the same in a catalog that was read anew may be drawn otherwise.
    const found = alike?.look.rig === look.rig ? alike : this.#make(look);
    this.#byKey.set(look.key, found);
    this.#known.set(look, found);
    return found;
  }

  /** One more of its frames is kept. */
  keep(owner: Kept): void {
    this.#byKey.set(owner.look.key, owner);
    owner.frames += 1;
  }

  /** One less of its frames is kept. */
  drop(owner: Kept): void {
    owner.frames -= 1;
    if (owner.frames === 0 && this.#byKey.get(owner.look.key) === owner) this.#byKey.delete(owner.look.key);
  }
}

import { below, both, cut, type Field, inflate } from "../art/field.ts";

/** How thick cloth is that one can look into, in pixels: two cells, so that it does not tear. */
const wall = 1.4;

/** Hollows a skirt from its hem up, so that legs walk in it. */
export function hollow(skirt: Field, hem: number, up = 5): Field {
  return cut(skirt, both(inflate(skirt, -wall), below(hem + up)), below(hem));
}

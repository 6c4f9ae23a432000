/**
 * The strongly connected components of a graph: things of the same number lead to one another.
 *
 * Takes time in proportion to the edges (R. Tarjan, "Depth-first search and linear graph algorithms", 1972), with a list in place of calls,
 * since a stranger's graph may be deeper than calls may.
 *
 * @param edges - by each thing, what it leads to.
 */
export function componentsOf(edges: ReadonlyMap<string, ReadonlySet<string>>): ReadonlyMap<string, number> {
  const components = new Map<string, number>();
  const found = new Map<string, number>();
  const lowest = new Map<string, number>();
  const path: string[] = [];
  for (const root of edges.keys()) {
    if (found.has(root)) continue;
    const visits = [visit(root)];
    for (let last = visits.at(-1); last !== undefined; last = visits.at(-1)) {
      const { thing, rest } = last;
      const { value: next, done } = rest.next();
      if (done !== true) {
        if (!found.has(next)) visits.push(visit(next));
        else if (!components.has(next)) lower(thing, found.get(next) ?? 0);
        continue;
      }
      visits.pop();
      const above = visits.at(-1);
      if (above !== undefined) lower(above.thing, lowest.get(thing) ?? 0);
      if (lowest.get(thing) === found.get(thing)) close(thing);
    }
  }
  return components;

  function visit(thing: string) {
    lowest.set(thing, found.size);
    found.set(thing, found.size);
    path.push(thing);
    return { thing, rest: (edges.get(thing) ?? new Set<string>()).values() };
  }

  function lower(thing: string, number: number): void {
    lowest.set(thing, Math.min(lowest.get(thing) ?? 0, number));
  }

  /** Everything on the path from a thing on is one component. */
  function close(thing: string): void {
    const number = components.size;
    for (let member = path.pop(); member !== undefined; member = path.pop()) {
      components.set(member, number);
      if (member === thing) return;
    }
  }
}

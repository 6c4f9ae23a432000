import { readFileSync } from "node:fs";

/**
 * The floors of the house, from the ground up, as `scripts/house.json` lists them. A room may import from its own folder and from lower
 * floors, never up.
 */
const house = JSON.parse(readFileSync(new URL("scripts/house.json", import.meta.url), "utf8"));
const floors = house.map((rooms) => rooms.map(({ room }) => room));

const pathOf = (room) => `^src/${room}/`;

const upward = floors.flatMap((rooms, floor) =>
  rooms.flatMap((room) => {
    const higher = floors.slice(floor + 1).flat();
    const beside = rooms.filter((other) => other !== room);
    // Above the highest floor there is nothing.
    if (higher.length + beside.length === 0) return [];
    return {
      name: `${room} imports only from below`,
      severity: "error",
      from: { path: pathOf(room) },
      to: { path: [...higher, ...beside].map(pathOf) },
    };
  }),
);

export default {
  forbidden: [
    ...upward,
    {
      name: "no circles",
      severity: "error",
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ["type-only"] } },
    },
    {
      name: "no circles of types in the library either",
      severity: "error",
      from: { path: "^src" },
      to: { circular: true },
    },
    {
      name: "only the search knows its engine",
      severity: "error",
      from: { path: "^src", pathNot: "^src/core/solver/" },
      to: { path: "^src/core/solver/search/" },
    },
    {
      name: "core needs neither Node nor a browser",
      severity: "error",
      from: { path: "^src/core" },
      to: { dependencyTypes: ["core"] },
    },
    {
      name: "the library does not know its demo",
      severity: "error",
      from: { path: "^src" },
      to: { path: "^(demo|examples|tests|bench|scripts)" },
    },
    {
      name: "the table of contents is for outsiders",
      severity: "error",
      from: { path: "^src" },
      to: { path: "^src/(core|node|browser|elements|testing)/index\\.ts$" },
    },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: "tsconfig.json" },
    enhancedResolveOptions: { exportsFields: ["exports"], conditionNames: ["import", "types", "default"] },
  },
};

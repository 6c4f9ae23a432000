/** What so many players need: costs measured on this machine, and a time played through with them. `npm run simulate`. */
import { measureCosts } from "./players/costs.ts";
import { habits, type Setup, simulate } from "./players/simulate.ts";

const { costs, sizes } = await measureCosts();
const line = (...columns: readonly string[]) =>
  console.log(columns.map((column, at) => (at === 0 ? column.padEnd(44) : column.padStart(12))).join(""));
const milliseconds = (value: number) => `${value.toPrecision(2)} ms`;

console.log("What one request costs on this machine");
const names = {
  http: "through the server, without anything else",
  judge: "a character from a stranger judged",
  edit: "an edit judged and done",
  open: "a save opened and read",
  seal: "a save sealed",
  portrait: "a portrait drawn and written as PNG",
  firstPortrait: "the same, its pictures read from files before",
  sheet: "a sheet of all animations and facings",
  dbRead: "PostgreSQL: account and character read",
  dbWrite: "PostgreSQL: a generation written",
  dbTransaction: "PostgreSQL: several things done as one",
} as const;
for (const [key, name] of Object.entries(names)) line(`  ${name}`, milliseconds(costs[key as keyof typeof names]));
line("  a stored character, with the one before", `${Math.round(sizes.character)} B`);
line("  a page that listens, at both ends", `${Math.round(sizes.livePage / 1024)} kB`);

console.log(
  `\nEach player in a minute: ${habits.edits} edits, ${habits.saves} saves, ${habits.purchases} purchases, ${habits.reads} reads, ${habits.pictures} pictures, ${habits.newLooks} new looks`,
);
line(
  "  players, servers, painters, database cores",
  "requests/s",
  "p50",
  "p99",
  "new look",
  "servers",
  "database",
  "painters",
);
const setups: readonly Setup[] = [
  { players: 1_000, servers: 1, painters: 1, connections: 10, databaseCores: 2 },
  { players: 10_000, servers: 1, painters: 1, connections: 10, databaseCores: 2 },
  { players: 10_000, servers: 2, painters: 2, connections: 20, databaseCores: 2 },
  { players: 30_000, servers: 2, painters: 2, connections: 20, databaseCores: 2 },
  { players: 30_000, servers: 4, painters: 2, connections: 40, databaseCores: 8 },
  { players: 100_000, servers: 12, painters: 6, connections: 120, databaseCores: 24 },
];
const share = (value: number) => `${Math.round(value * 100)} %`;
for (const setup of setups) {
  const { requestsASecond, p50, p99, picture, busy } = simulate(costs, setup);
  line(
    `  ${setup.players}, ${setup.servers}, ${setup.painters}, ${setup.databaseCores}`,
    String(Math.round(requestsASecond)),
    milliseconds(p50),
    milliseconds(p99),
    milliseconds(picture),
    share(busy.servers),
    share(busy.database),
    share(busy.painters),
  );
}
console.log(
  `\nA million accounts with three characters each: ${Math.round((sizes.character * 3e6) / 1e9)} GB of table and index.`,
);

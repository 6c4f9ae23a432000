// The migrations of a game's own journal: every form it ever had leads to the newest.
export const migrations = [
  { kind: "journal", from: 1, migrate: ({ text }) => ({ mantle: "journal/2", lines: [text] }) },
  {
    kind: "journal",
    from: 2,
    migrate: ({ lines }) => ({ mantle: "journal/3", entries: lines.map((line) => ({ day: 1, line })) }),
  },
];

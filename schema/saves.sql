-- What postgresStore keeps, in any PostgreSQL from 13 on. Every key begins with the player, and no statement touches two players: a partitioned
-- or distributed database takes the tables as they are, distributed by player.

-- A row a save: its newest generation, and the older ones that are kept. A text with a zero byte, which PostgreSQL has not, is kept as \x and
-- the hexadecimal of its UTF-8.
CREATE TABLE IF NOT EXISTS mantle_saves (
  player          text COLLATE "C" NOT NULL,
  key             text COLLATE "C" NOT NULL,
  revision        bigint NOT NULL CHECK (revision > 0),
  content         text NOT NULL,
  older_revisions bigint[] NOT NULL DEFAULT '{}',
  older_contents  text[] NOT NULL DEFAULT '{}',
  stored_at       timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (player, key)
);

-- A row a player: whoever does several things as one locks it.
CREATE TABLE IF NOT EXISTS mantle_players (
  player text COLLATE "C" PRIMARY KEY
);

-- What was asked under the name of a request, which is not done twice, and what was answered. The name stays when the answer is forgotten.
CREATE TABLE IF NOT EXISTS mantle_requests (
  player      text COLLATE "C" NOT NULL,
  request     text COLLATE "C" NOT NULL,
  asked       text NOT NULL,
  answer      text,
  answered_at timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (player, request)
);

-- One row: which history the saves have. It changes when a backup is restored, so that devices compare everything anew.
CREATE TABLE IF NOT EXISTS mantle_store (
  one   boolean PRIMARY KEY DEFAULT true CHECK (one),
  epoch text NOT NULL DEFAULT gen_random_uuid()
);
INSERT INTO mantle_store DEFAULT VALUES ON CONFLICT DO NOTHING;

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

-- What was answered to requests that must not be done twice.
CREATE TABLE IF NOT EXISTS mantle_requests (
  player      text COLLATE "C" NOT NULL,
  request     text COLLATE "C" NOT NULL,
  answer      text NOT NULL,
  answered_at timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (player, request)
);

--| about: Orchards and their blocks
--| up
CREATE TABLE orchard (
  id integer PRIMARY KEY,
  name text NOT NULL UNIQUE,
  hectares decimal(6,2) NOT NULL
);

-- A block is a stand of trees of one age.
CREATE TABLE block (
  id integer PRIMARY KEY,
  orchard_id integer NOT NULL REFERENCES orchard (id),
  label text NOT NULL,
  trees integer NOT NULL DEFAULT 0 CHECK (trees >= 0),
  UNIQUE (orchard_id, label)
);

INSERT INTO orchard (id, name, hectares)
VALUES (1, 'Long Acre', 12.5), (2, 'Mill Slope', 7.25);

INSERT INTO block (orchard_id, label, trees)
VALUES (1, 'north', 420), (1, 'south', 385), (2, 'terrace', 260);
--| down
DROP TABLE block;
DROP TABLE orchard;

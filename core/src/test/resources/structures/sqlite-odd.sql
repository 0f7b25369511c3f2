CREATE TABLE "Orch.ard ""x"" y" (id integer PRIMARY KEY AUTOINCREMENT, "näme 🍎" text COLLATE NOCASE UNIQUE ON CONFLICT REPLACE,
  [odd one] real DEFAULT (1 + 2), area real CHECK (area > 0), double real GENERATED ALWAYS AS (area * 2) STORED, at text DEFAULT CURRENT_TIMESTAMP NOT NULL /* a comment */);
CREATE TABLE block (id integer PRIMARY KEY, orchard_id integer REFERENCES "Orch.ard ""x"" y" (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED, other integer, note,
  CONSTRAINT sane CHECK (other <> id), FOREIGN KEY (other) REFERENCES block (id) ON UPDATE SET NULL);
CREATE TABLE pair (a text, b int, PRIMARY KEY (b DESC, a)) STRICT, WITHOUT ROWID;
CREATE VIRTUAL TABLE words USING fts5(body, tokenize = 'porter');
CREATE UNIQUE INDEX block_half ON block (orchard_id DESC, lower(note)) WHERE id > 3;
CREATE VIEW z_base AS SELECT id, note FROM block;
CREATE VIEW a_top (one, "two three") AS SELECT id, note FROM z_base;
CREATE TRIGGER stamp AFTER INSERT ON block WHEN NEW.id > 3 BEGIN UPDATE block SET note = 'it''s'; SELECT 1; END;
CREATE TRIGGER instead INSTEAD OF DELETE ON a_top BEGIN DELETE FROM block WHERE id = OLD.one; END;

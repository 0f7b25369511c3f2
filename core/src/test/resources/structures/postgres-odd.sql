CREATE EXTENSION IF NOT EXISTS pg_trgm;
CREATE TYPE "Grade ""A""" AS ENUM ('A', 'it''s B', 'Ü');
CREATE TYPE spot AS (x int, "Y Z" text COLLATE "C", at timestamptz(3));
CREATE DOMAIN weight AS numeric(8,2) DEFAULT 0 NOT NULL CONSTRAINT "not less" CHECK (VALUE >= 0) CHECK (VALUE < 10000);
CREATE DOMAIN code_text AS varchar(12) COLLATE "C";
CREATE SEQUENCE ticket AS integer START 5 INCREMENT 3 CYCLE MAXVALUE 100 CACHE 7;
COMMENT ON SEQUENCE ticket IS 'numbers';
CREATE FUNCTION next_code(prefix text DEFAULT 'B-', wide int DEFAULT 4) RETURNS text LANGUAGE plpgsql STABLE
  AS $$ BEGIN RETURN prefix || lpad(nextval('ticket')::text, wide, '0'); END $$;
CREATE FUNCTION is_ripe(days integer) RETURNS boolean LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE RETURN days > 90;
CREATE TABLE "Orch.ard ""x"" y" (
  id bigint GENERATED ALWAYS AS IDENTITY (START WITH 100 INCREMENT BY 5) PRIMARY KEY,
  "näme 🍎" varchar(40) COLLATE "C" UNIQUE NULLS NOT DISTINCT,
  "select" text[] DEFAULT '{}'::text[], grades "Grade ""A"""[] , w weight, place spot, area int CHECK (area > 0),
  double int GENERATED ALWAYS AS (area * 2) STORED, at timestamptz DEFAULT now(), raw jsonb DEFAULT '{"a": [1, 2]}',
  note character varying, bits bit varying(5), span interval day to second(3), money numeric, code code_text);
COMMENT ON TABLE "Orch.ard ""x"" y" IS 'it''s \ a table';
COMMENT ON COLUMN "Orch.ard ""x"" y"."select" IS E'line\nbreak';
CREATE TABLE block (
  id serial PRIMARY KEY, small smallserial, big bigserial, code text NOT NULL DEFAULT next_code(),
  orchard_id bigint, other_id int, during tsrange, ripe_days int,
  CONSTRAINT "ripe?" CHECK (is_ripe(ripe_days)),
  CONSTRAINT block_orchard FOREIGN KEY (orchard_id) REFERENCES "Orch.ard ""x"" y" ON UPDATE CASCADE ON DELETE SET NULL DEFERRABLE INITIALLY DEFERRED,
  EXCLUDE USING gist (during WITH &&) WHERE (id > 7)) WITH (fillfactor = 70);
CREATE TABLE grower (id int PRIMARY KEY, best_block int, name text, UNIQUE (id, name) DEFERRABLE);
ALTER TABLE block ADD grower_id int REFERENCES grower;
ALTER TABLE grower ADD FOREIGN KEY (best_block) REFERENCES block (id) MATCH FULL;
ALTER TABLE grower ADD CONSTRAINT late_check CHECK (name <> '') NOT VALID;
ALTER TABLE grower ADD CONSTRAINT late_reference FOREIGN KEY (id) REFERENCES grower (id) NOT VALID;
ALTER TABLE block ADD CONSTRAINT again FOREIGN KEY (other_id) REFERENCES block (id) ON DELETE RESTRICT;
CREATE UNLOGGED TABLE scrap (a int, b int, CONSTRAINT "scrap key" PRIMARY KEY (b, a) INCLUDE (c), c int);
CREATE TABLE picking (id int NOT NULL, at date NOT NULL, kg numeric(10,2) DEFAULT 1, PRIMARY KEY (id, at)) PARTITION BY RANGE (at);
CREATE TABLE picking_26 PARTITION OF picking FOR VALUES FROM ('2026-01-01') TO ('2027-01-01') PARTITION BY LIST (id);
CREATE TABLE picking_26_few PARTITION OF picking_26 FOR VALUES IN (1, 2, 3);
CREATE TABLE picking_rest PARTITION OF picking DEFAULT;
CREATE INDEX picking_kg ON picking (kg);
CREATE TABLE person (name text NOT NULL, born date);
CREATE TABLE picker (hired date) INHERITS (person);
CREATE UNIQUE INDEX block_half ON block USING btree (orchard_id DESC NULLS LAST, lower(code) text_pattern_ops) INCLUDE (during) WHERE id > 3;
CREATE INDEX block_words ON block USING gin (code gin_trgm_ops);
CREATE INDEX "odd index" ON block USING hash (code) WITH (fillfactor = 60);
CREATE FUNCTION of_block(b block) RETURNS text LANGUAGE sql IMMUTABLE AS 'SELECT $1.code';
CREATE FUNCTION all_blocks() RETURNS SETOF block LANGUAGE sql AS 'SELECT * FROM block';
CREATE FUNCTION table_of(OUT a int, OUT b text) LANGUAGE sql AS $x$ SELECT 1, 'x$$y' $x$;
CREATE FUNCTION add_up(a int, VARIADIC b int[]) RETURNS int LANGUAGE sql AS 'SELECT $1';
CREATE FUNCTION "odd (name)"(a text) RETURNS text LANGUAGE sql AS 'SELECT $1';
COMMENT ON FUNCTION "odd (name)"(text) IS 'odd';
CREATE PROCEDURE tidy(INOUT n int) LANGUAGE plpgsql AS $$ BEGIN DELETE FROM scrap; n := 1; COMMIT; END $$;
CREATE AGGREGATE longest(text) (SFUNC = textcat, STYPE = text, INITCOND = 'it''s');
CREATE AGGREGATE best(int) (SFUNC = int4larger, STYPE = int, SORTOP = >);
CREATE VIEW z_base AS SELECT id, code, ripe_days FROM block WHERE is_ripe(ripe_days);
CREATE VIEW a_top WITH (security_barrier = true) AS SELECT z.id, z.code, o."näme 🍎" AS "the name" FROM z_base z LEFT JOIN "Orch.ard ""x"" y" o ON o.id = z.id;
CREATE VIEW checked AS SELECT id, code FROM block WHERE id > 0 WITH LOCAL CHECK OPTION;
CREATE VIEW by_key AS SELECT b.id, b.code, count(*) AS n FROM block b JOIN grower g ON g.id = b.grower_id GROUP BY b.id;
CREATE RECURSIVE VIEW counting (n) AS VALUES (1) UNION ALL SELECT n + 1 FROM counting WHERE n < 9;
COMMENT ON VIEW checked IS 'checked';
CREATE MATERIALIZED VIEW total AS SELECT a.code, count(*) AS n FROM a_top a GROUP BY a.code WITH NO DATA;
CREATE UNIQUE INDEX total_code ON total (code);
CREATE FUNCTION stamp() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN NEW.at := now(); RETURN NEW; END $$;
CREATE TRIGGER "stamp it" BEFORE INSERT OR UPDATE OF code ON block FOR EACH ROW WHEN (NEW.code <> '') EXECUTE FUNCTION stamp('a', 'it''s');
CREATE CONSTRAINT TRIGGER later AFTER INSERT ON grower DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION stamp();
CREATE TRIGGER quiet AFTER DELETE ON grower REFERENCING OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION stamp();
ALTER TABLE grower DISABLE TRIGGER quiet;
ALTER TABLE block ENABLE ROW LEVEL SECURITY;
ALTER TABLE grower ENABLE ROW LEVEL SECURITY;
ALTER TABLE grower FORCE ROW LEVEL SECURITY;
CREATE POLICY own ON block AS RESTRICTIVE FOR UPDATE TO PUBLIC USING (id > 0) WITH CHECK (id < 100);
CREATE RULE silent AS ON DELETE TO scrap DO INSTEAD NOTHING;
CREATE STATISTICS together (dependencies) ON a, b FROM scrap;
CREATE TABLE bin (id int PRIMARY KEY, code text CONSTRAINT one_key UNIQUE, kg numeric CONSTRAINT heavy_check CHECK (kg > 0), crate int CHECK (crate > 0), up int CONSTRAINT up_fkey REFERENCES bin, CONSTRAINT late_check CHECK (kg < crate) NOT VALID);
ALTER TABLE bin RENAME TO tote;
ALTER TABLE tote RENAME COLUMN crate TO pallet;
CREATE TABLE tally (id int, n int, note text CONSTRAINT said CHECK (note <> '')) PARTITION BY LIST (id);
CREATE TABLE tally_1 PARTITION OF tally (PRIMARY KEY (id), UNIQUE (n), n NOT NULL DEFAULT 3, CONSTRAINT one_only CHECK (n > 2)) FOR VALUES IN (1);
CREATE TABLE tally_2 (note text CONSTRAINT said CHECK (note <> ''), gone int, n int DEFAULT 5, id int);
ALTER TABLE tally_2 DROP gone;
ALTER TABLE tally ATTACH PARTITION tally_2 FOR VALUES IN (2);
ALTER TABLE tally ADD CONSTRAINT later_on CHECK (id < 9);
ALTER TABLE picker ALTER name SET DEFAULT 'nobody', ALTER born SET NOT NULL;
CREATE TABLE foreman (name text, rank int) INHERITS (picker);
CREATE TABLE spots OF spot (PRIMARY KEY (x), "Y Z" WITH OPTIONS DEFAULT 'y' NOT NULL);
CREATE TABLE shelf (a int, b int, c text, PRIMARY KEY (a, b), UNIQUE (b, a));
CREATE TABLE shelf_part (x int, "the y" int, CONSTRAINT of_shelf FOREIGN KEY (x, "the y") REFERENCES shelf ON DELETE SET NULL ("the y"), FOREIGN KEY (x, "the y") REFERENCES shelf (b, a) ON DELETE SET DEFAULT (x));
ALTER TABLE shelf ALTER c SET STORAGE EXTERNAL, ALTER c SET STATISTICS 500, ALTER a SET (n_distinct = -1, n_distinct_inherited = 7);
ALTER TABLE shelf REPLICA IDENTITY USING INDEX shelf_pkey;
ALTER TABLE scrap REPLICA IDENTITY FULL;
COMMENT ON CONSTRAINT shelf_pkey ON shelf IS 'the key';
COMMENT ON CONSTRAINT of_shelf ON shelf_part IS 'it''s a reference';
COMMENT ON CONSTRAINT "ripe?" ON block IS 'ripe';
COMMENT ON INDEX "odd index" IS 'odd';
COMMENT ON COLUMN a_top."the name" IS 'a view''s column';
COMMENT ON INDEX total_code IS 'of a materialised view';
COMMENT ON POLICY own ON block IS 'own';
CREATE FUNCTION whole(internal) RETURNS bytea LANGUAGE internal IMMUTABLE STRICT AS 'numeric_avg_serialize';
CREATE FUNCTION part(bytea, internal) RETURNS internal LANGUAGE internal IMMUTABLE STRICT AS 'numeric_avg_deserialize';
CREATE AGGREGATE middle(numeric) (SFUNC = numeric_avg_accum, STYPE = internal, FINALFUNC = numeric_avg, FINALFUNC_MODIFY = SHAREABLE, COMBINEFUNC = numeric_avg_combine, SERIALFUNC = whole, DESERIALFUNC = part, MSFUNC = numeric_avg_accum, MINVFUNC = numeric_accum_inv, MSTYPE = internal, MSSPACE = 128, MFINALFUNC = numeric_avg, MFINALFUNC_MODIFY = READ_WRITE, PARALLEL = SAFE);
CREATE TYPE "Span of" AS RANGE (SUBTYPE = float8);
CREATE TABLE a_stay (during "Span of", often "Span of"[]);
CREATE FUNCTION apart(integer, integer) RETURNS boolean LANGUAGE sql IMMUTABLE AS 'SELECT $1 <> $2';
CREATE OPERATOR <~> (FUNCTION = apart, LEFTARG = integer, RIGHTARG = integer);
CREATE VIEW a_apart AS SELECT id FROM block WHERE id::integer <~> 3;
CREATE TABLE a_checked (id integer CHECK (id <~> 0));

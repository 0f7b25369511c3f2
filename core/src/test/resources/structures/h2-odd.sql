CREATE DOMAIN weight AS numeric(8,2) DEFAULT 0 CHECK (VALUE >= 0);
CREATE SEQUENCE ticket AS integer START WITH 5 INCREMENT BY 3 MINVALUE 2 MAXVALUE 500 CYCLE CACHE 8;
CREATE ALIAS add_up FOR "java.lang.Math.addExact(int,int)";
CREATE TABLE "Orch.ard ""x"" y" (id bigint GENERATED ALWAYS AS IDENTITY (START WITH 100 INCREMENT BY 5) PRIMARY KEY, "näme 🍎" varchar(40) UNIQUE,
  area int DEFAULT 7 CHECK (area > 0), "double" int GENERATED ALWAYS AS (area * 2), at timestamp(3) with time zone DEFAULT current_timestamp ON UPDATE current_timestamp,
  w weight, tags varchar(9) array[4], kind enum('a', 'it''s b') DEFAULT 'a', code varchar(9) DEFAULT 'it''s' NOT NULL, raw json, "select" clob);
COMMENT ON TABLE "Orch.ard ""x"" y" IS 'it''s whole';
COMMENT ON COLUMN "Orch.ard ""x"" y"."select" IS 'a word';
CREATE TABLE block (a int, b int, orchard_id bigint, other_a int, other_b int, PRIMARY KEY (b, a), CONSTRAINT sane CHECK (a < b),
  CONSTRAINT home FOREIGN KEY (orchard_id) REFERENCES "Orch.ard ""x"" y" (id) ON DELETE CASCADE ON UPDATE SET NULL, FOREIGN KEY (other_b, other_a) REFERENCES block (b, a));
CREATE TABLE ring_a (id int PRIMARY KEY, b int);
CREATE TABLE ring_b (id int PRIMARY KEY, a int, FOREIGN KEY (a) REFERENCES ring_a (id));
ALTER TABLE ring_a ADD FOREIGN KEY (b) REFERENCES ring_b (id);
CREATE INDEX block_half ON block (orchard_id DESC, a);
CREATE UNIQUE INDEX "odd index" ON block (other_a, a);
CREATE VIEW z_base AS SELECT a, b FROM block WHERE a > 1;
CREATE VIEW a_top AS SELECT z.a AS "the a", add_up(z.b, 1) AS s FROM z_base z;
COMMENT ON VIEW a_top IS 'top';
CREATE CONSTANT half VALUE 0.5;
CREATE TABLE tote (id int PRIMARY KEY, w weight DEFAULT 3, code varchar(9) INVISIBLE DEFAULT 'x', n int DEFAULT 5 DEFAULT ON NULL, at timestamp DEFAULT current_timestamp ON UPDATE current_timestamp DEFAULT ON NULL,
  CONSTRAINT "one of" UNIQUE NULLS NOT DISTINCT (n), UNIQUE NULLS ALL DISTINCT (code, n));
CREATE UNIQUE NULLS NOT DISTINCT INDEX tote_n ON tote (n DESC NULLS FIRST, code NULLS LAST, id DESC NULLS LAST);
COMMENT ON CONSTRAINT "one of" IS 'it''s one';
COMMENT ON INDEX tote_n IS 'odd';
CREATE VIEW renamed ("the id", n) AS SELECT id, n + 1 FROM tote;
CREATE VIEW on_renamed AS SELECT r."the id" FROM renamed r;

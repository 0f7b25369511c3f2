CREATE TABLE `Orch.ard ``x``` (id bigint unsigned NOT NULL AUTO_INCREMENT PRIMARY KEY, `näme` varchar(40) CHARACTER SET latin1 COLLATE latin1_german1_ci UNIQUE,
  area int(6) unsigned zerofill CHECK (area > 0), `double` int AS (area * 2) STORED, twice int AS (area + 2) VIRTUAL,
  at timestamp NOT NULL DEFAULT current_timestamp ON UPDATE current_timestamp COMMENT 'it''s \\ a "time"', due timestamp NULL, day date DEFAULT '2026-01-01',
  kind enum('a', 'it''s b') NOT NULL DEFAULT 'a', tags set('x', 'y'), raw json, bits bit(3) DEFAULT b'101', price decimal(8,2) DEFAULT 0.50,
  word varchar(9) DEFAULT 'it''s', made datetime(3) DEFAULT current_timestamp(3), code char(3) DEFAULT (concat('a', 'b')), `select` longblob, hidden int DEFAULT 1 INVISIBLE)
  COMMENT = 'it''s whole' DEFAULT CHARSET = utf8mb4 COLLATE = utf8mb4_unicode_ci ROW_FORMAT = DYNAMIC;
CREATE TABLE block (a int, b int, note text, body text, shape geometry NOT NULL, orchard_id bigint unsigned, other_a int, other_b int,
  PRIMARY KEY (b, a), KEY notes (note(10), a DESC), FULLTEXT KEY words (body), SPATIAL KEY shapes (shape), UNIQUE KEY one (a, b) COMMENT 'it''s one',
  CONSTRAINT home FOREIGN KEY (orchard_id) REFERENCES `Orch.ard ``x``` (id) ON DELETE CASCADE ON UPDATE SET NULL,
  FOREIGN KEY (other_b, other_a) REFERENCES block (b, a), CONSTRAINT sane CHECK (a < b and note <> 'it''s'));
CREATE TABLE ring_a (id int PRIMARY KEY, b int);
CREATE TABLE ring_b (id int PRIMARY KEY, a int, FOREIGN KEY (a) REFERENCES ring_a (id));
ALTER TABLE ring_a ADD FOREIGN KEY (b) REFERENCES ring_b (id);
CREATE TABLE picking (id int NOT NULL, at date NOT NULL, PRIMARY KEY (id, at)) PARTITION BY RANGE (year(at)) (PARTITION p26 VALUES LESS THAN (2027), PARTITION rest VALUES LESS THAN MAXVALUE);
CREATE TABLE spread (id int PRIMARY KEY) PARTITION BY HASH (id) PARTITIONS 3;
CREATE TABLE listed (id int, kind int) PARTITION BY LIST COLUMNS (kind) (PARTITION few VALUES IN (1, 2), PARTITION many VALUES IN (3));
CREATE TABLE versioned (id int PRIMARY KEY, name varchar(9)) WITH SYSTEM VERSIONING;
CREATE TABLE keyed (name text, PRIMARY KEY (name(7)));
CREATE TABLE quick (id int PRIMARY KEY) ENGINE = MEMORY;
CREATE SEQUENCE ticket START WITH 5 INCREMENT BY 3 MINVALUE 2 MAXVALUE 500 CACHE 7 CYCLE;
CREATE FUNCTION add_up(`a b` int, c varchar(20)) RETURNS varchar(30) DETERMINISTIC NO SQL COMMENT 'it''s' RETURN concat(`a b`, c);
CREATE VIEW z_base AS SELECT a, b, note FROM block WHERE a > 1;
CREATE ALGORITHM = MERGE SQL SECURITY INVOKER VIEW a_top AS SELECT z.a AS `the a`, add_up(z.b, 'x') AS s FROM z_base z;
CREATE VIEW checked AS SELECT a, b FROM block WHERE a > 0 WITH LOCAL CHECK OPTION;
CREATE PROCEDURE tidy(IN n int, OUT m int, INOUT k decimal(8,2)) MODIFIES SQL DATA SQL SECURITY INVOKER BEGIN DELETE FROM ring_b WHERE id = n; SET m = 1; END;
CREATE TRIGGER first_one BEFORE INSERT ON block FOR EACH ROW SET NEW.note = 'x';
CREATE TRIGGER a_second BEFORE INSERT ON block FOR EACH ROW BEGIN IF NEW.a > 1 THEN SET NEW.note = concat(NEW.note, 'y'); END IF; END;
CREATE EVENT nightly ON SCHEDULE EVERY 1 DAY STARTS '2026-11-23 03:00:00' ON COMPLETION PRESERVE DISABLE COMMENT 'it''s' DO DELETE FROM ring_b WHERE id < 0;
CREATE TABLE tote (id int PRIMARY KEY, a int, b int, CHECK (a > 0), CHECK (b > 0), FOREIGN KEY (a) REFERENCES ring_a (id), FOREIGN KEY (b) REFERENCES ring_b (id));
ALTER TABLE tote DROP FOREIGN KEY tote_ibfk_1;
ALTER TABLE tote DROP CONSTRAINT CONSTRAINT_1;
CREATE SEQUENCE noted ENGINE = InnoDB COMMENT = 'it''s a sequence';
CREATE TABLE numbered (id int DEFAULT nextval(ticket), CHECK (id > 0), again int DEFAULT (nextval(ticket) + 1));
CREATE TABLE yearly (id int, at date) PARTITION BY RANGE (year(at)) SUBPARTITION BY HASH (id) SUBPARTITIONS 2 (PARTITION p0 VALUES LESS THAN (2020) COMMENT = 'it''s old', PARTITION p1 VALUES LESS THAN MAXVALUE);
CREATE TABLE kept (id int, left_out int WITHOUT SYSTEM VERSIONING, since timestamp(6) GENERATED ALWAYS AS ROW START, until timestamp(6) GENERATED ALWAYS AS ROW END INVISIBLE, PERIOD FOR SYSTEM_TIME (since, until)) WITH SYSTEM VERSIONING;
CREATE TABLE kept_few (id int) WITH SYSTEM VERSIONING PARTITION BY SYSTEM_TIME LIMIT 100 (PARTITION p0 HISTORY, PARTITION pn CURRENT);
CREATE FUNCTION lettered(s varchar(20) CHARACTER SET latin1, t varchar(9)) RETURNS varchar(30) CHARACTER SET latin1 COLLATE latin1_german1_ci DETERMINISTIC RETURN concat(s, ';');
CREATE AGGREGATE FUNCTION summed(x int) RETURNS int BEGIN DECLARE s int DEFAULT 0; DECLARE CONTINUE HANDLER FOR NOT FOUND RETURN s; LOOP FETCH GROUP NEXT ROW; SET s = s + x; END LOOP; END;
CREATE TRIGGER zeroth BEFORE INSERT ON block FOR EACH ROW PRECEDES first_one SET NEW.note = 'z';
CREATE TRIGGER a_third BEFORE INSERT ON block FOR EACH ROW FOLLOWS first_one SET NEW.note = concat(NEW.note, 'b');
CREATE TABLE ignoring (id int, KEY unused (id) COMMENT 'why' IGNORED, raw json COMMENT 'a text');

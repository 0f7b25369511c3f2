--| about: Cold rooms, and where a picking is kept
--| up
CREATE TABLE cold_room (
  code text NOT NULL PRIMARY KEY,
  celsius decimal(3,1) NOT NULL
);
ALTER TABLE picking ADD COLUMN cold_room_code text REFERENCES cold_room (code);
--| down
ALTER TABLE picking DROP COLUMN cold_room_code;
DROP TABLE cold_room;

--| up
CREATE TABLE grade (code text NOT NULL PRIMARY KEY, words text);
--| down
DROP TABLE grade;

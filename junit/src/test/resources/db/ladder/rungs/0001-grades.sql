--| up
CREATE TABLE grade (code char(1) NOT NULL PRIMARY KEY, words varchar(40));
--| down
DROP TABLE grade;

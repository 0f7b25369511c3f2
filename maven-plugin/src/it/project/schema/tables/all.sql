CREATE TABLE grade (code text NOT NULL PRIMARY KEY, words text);

CREATE TABLE bin (id integer NOT NULL PRIMARY KEY);

CREATE TABLE cold_room (
  code text NOT NULL PRIMARY KEY,
  celsius decimal(3,1) NOT NULL CHECK (celsius > -30),
  humidity_max integer
);

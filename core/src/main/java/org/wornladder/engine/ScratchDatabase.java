package org.wornladder.engine;

import java.sql.SQLException;
import java.util.List;
import org.wornladder.project.Environment;
import org.wornladder.sql.Place;
import org.wornladder.sql.Statement;

/** A throw-away database. Whoever asked for it closes it, which drops it. */
public interface ScratchDatabase extends AutoCloseable {
  /** The table inside that proves whose it is; no part of its structure. */
  String PROOF = "ladder_scratch";

  /** How to open it: everything else is as in the environment whose place it takes. */
  Environment environment();

  /** Puts the proof into a database. */
  static void prove(Session session, Engine engine, String project) throws SQLException {
    String table = session.quoted(PROOF);
    for (String text :
        List.of(
            "CREATE TABLE " + table + " (project varchar(200))",
            "INSERT INTO " + table + " VALUES (" + engine.quoting().text(project) + ")")) {
      session.execute(new Statement(text, Place.of("scratch"), engine.dialect()));
    }
  }

  @Override
  void close();
}

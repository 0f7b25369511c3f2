package org.wornladder.engine;

import java.util.regex.Pattern;
import org.wornladder.sql.Place;
import org.wornladder.sql.Statement;

/** CREATE SCHEMA, for the engines that have schemas. */
public final class SchemaStatements {
  private SchemaStatements() {}

  /** The statement that creates a schema unless it is there. */
  public static Statement create(Engine engine, String schema) {
    String text = "CREATE SCHEMA IF NOT EXISTS " + engine.quoting().name(schema);
    return new Statement(text, Place.of("scratch"), engine.dialect());
  }

  /** Whether a script creates a schema of that name. */
  public static boolean isCreatedIn(String script, String schema) {
    String name = "\"?" + Pattern.quote(schema) + "\\b";
    return Pattern.compile("(?i)create\\s+schema\\s+(if\\s+not\\s+exists\\s+)?" + name)
        .matcher(script)
        .find();
  }
}

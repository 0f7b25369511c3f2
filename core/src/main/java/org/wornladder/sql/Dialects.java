package org.wornladder.sql;

import static org.wornladder.sql.Dialect.Trait.*;

import java.util.List;
import java.util.Optional;
import java.util.Set;

/** The dialects that the product reads. */
public final class Dialects {
  /** What all have in common and none contradicts, for texts that are no engine's. */
  public static final Dialect NEUTRAL =
      new Dialect("neutral", Set.of(DOLLAR_QUOTES, BACK_QUOTED_NAMES));

  /** SQLite, "SQL As Understood By SQLite", sections "Comments" and "Keywords". */
  public static final Dialect SQLITE =
      new Dialect("sqlite", Set.of(BACK_QUOTED_NAMES, BRACKETED_NAMES, TRIGGER_BODIES));

  /** PostgreSQL manual, chapter 4.1 "Lexical Structure"; psql for COPY data. */
  public static final Dialect POSTGRES =
      new Dialect(
          "postgres",
          Set.of(
              NESTED_COMMENTS,
              ESCAPE_STRINGS,
              DOLLAR_QUOTES,
              LOAD_DATA,
              PARENTHESES_HOLD,
              FOLDS_TO_LOWER,
              ATOMIC_BODIES));

  /** MariaDB Server documentation, "Comment Syntax", "String Literals" and "Delimiters". */
  public static final Dialect MARIADB =
      new Dialect(
          "mariadb",
          Set.of(
              HASH_COMMENTS,
              DASHES_WANT_BLANK,
              EXECUTED_COMMENTS,
              SQL_MODE,
              BACKSLASH_ESCAPES,
              BACK_QUOTED_NAMES,
              DELIMITER_LINES,
              ROUTINE_BODIES));

  /** H2, "SQL Grammar", sections "Comments" and "Dollar Quoted String". */
  public static final Dialect H2 =
      new Dialect("h2", Set.of(NESTED_COMMENTS, SLASH_COMMENTS, DOLLAR_QUOTES, BACK_QUOTED_NAMES));

  /** Commands of a document database as JSON (RFC 8259). */
  public static final Dialect DOCUMENT = new Dialect("document", Set.of(JSON, BACKSLASH_ESCAPES));

  /** Those of SQL. */
  public static final List<Dialect> ALL = List.of(SQLITE, POSTGRES, MARIADB, H2);

  private Dialects() {}

  /**
   * SQL as the standard has it, for engines of which no more is known (ISO/IEC 9075-2, 5.2 "token
   * and separator"; ISO/IEC 9075-4, "SQL control statements").
   *
   * @param engine its name
   */
  public static Dialect standard(String engine) {
    return new Dialect(engine, Set.of(NESTED_COMMENTS, ANSI_QUOTES, ROUTINE_BODIES));
  }

  /** The dialect of an engine; empty for a name that is not known. */
  public static Optional<Dialect> named(String engine) {
    for (Dialect dialect : ALL) {
      if (dialect.name().equals(engine)) {
        return Optional.of(dialect);
      }
    }
    return Optional.empty();
  }
}

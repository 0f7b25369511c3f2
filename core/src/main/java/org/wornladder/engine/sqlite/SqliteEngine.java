package org.wornladder.engine.sqlite;

import java.time.Clock;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.wornladder.engine.Ability;
import org.wornladder.engine.Access;
import org.wornladder.engine.Engine;
import org.wornladder.engine.FileScratch;
import org.wornladder.engine.Objection;
import org.wornladder.engine.ScratchDatabase;
import org.wornladder.engine.Session;
import org.wornladder.engine.StatementWords;
import org.wornladder.engine.StorageTypes;
import org.wornladder.engine.Target;
import org.wornladder.engine.VariableSyntax;
import org.wornladder.project.Environment;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Quoting;
import org.wornladder.sql.Statement;

/** SQLite: one file a database, changes of structure inside transactions. */
public final class SqliteEngine implements Engine {
  private static final int MOST_WORDS = Integer.MAX_VALUE;

  private static final StorageTypes STORAGE =
      new StorageTypes("INTEGER", "INTEGER", "TEXT", "TEXT", "TEXT", StorageTypes.NOT_NULL, "");

  static final Quoting QUOTING = new Quoting('"', Quoting.Backslash.PLAIN);

  private static final Set<Ability> ABILITIES =
      Set.of(
          Ability.BATCHES,
          Ability.ATTIC,
          Ability.TRANSACTIONAL_DDL,
          Ability.DEFERRED_CONSTRAINTS,
          Ability.PARTIAL_INDEXES,
          Ability.COLUMN_POSITIONS);

  @Override
  public String name() {
    return "sqlite";
  }

  @Override
  public boolean accepts(String url) {
    return url.startsWith(SqliteFile.PREFIX);
  }

  @Override
  public Dialect dialect() {
    return Dialects.SQLITE;
  }

  @Override
  public Quoting quoting() {
    return QUOTING;
  }

  @Override
  public Set<Ability> abilities() {
    return ABILITIES;
  }

  @Override
  public boolean joinsTransaction(Statement statement) {
    return SqliteObjections.to(statement, true).isEmpty();
  }

  @Override
  public Optional<Objection> objection(Statement statement, boolean insideTransaction) {
    return SqliteObjections.to(statement, insideTransaction);
  }

  @Override
  public Session open(Target target, Access access) {
    return SqliteSession.open(target, access);
  }

  @Override
  public ScratchDatabase scratch(Target server, Environment like, String project, Clock clock) {
    // What is thrown away need not outlive a power cut.
    return FileScratch.make(like, file -> SqliteFile.PREFIX + file + ".db?synchronous=OFF");
  }

  @Override
  public Optional<String> reachesClient(Statement statement) {
    List<String> words = StatementWords.first(statement, MOST_WORDS);
    boolean attaches =
        words.get(0).equals("ATTACH")
            && words.stream().noneMatch(word -> word.equals("':MEMORY:'") || word.equals("''"));
    boolean writes = words.get(0).equals("VACUUM") && words.contains("INTO");
    // Commands of the driver, which reads them before SQLite does.
    boolean copies = words.get(0).equals("BACKUP") || words.get(0).equals("RESTORE");
    return attaches || writes || copies
        ? Optional.of(words.get(0) + " opens another file of this machine")
        : words.contains("LOAD_EXTENSION")
            ? Optional.of("load_extension runs code in this process")
            : Optional.empty();
  }

  @Override
  public Optional<String> reachesOut(Statement statement) {
    return StatementWords.first(statement, 1).contains("ATTACH")
        ? Optional.of("another database")
        : Optional.empty();
  }

  @Override
  public StorageTypes storage() {
    return STORAGE;
  }

  @Override
  public VariableSyntax clientVariables() {
    return new SqliteShellVariables();
  }
}

package org.wornladder.engine.mariadb;

import java.time.Clock;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import org.wornladder.engine.Ability;
import org.wornladder.engine.Access;
import org.wornladder.engine.Engine;
import org.wornladder.engine.ExternalStatements;
import org.wornladder.engine.ImplicitCommits;
import org.wornladder.engine.Objection;
import org.wornladder.engine.ScratchDatabase;
import org.wornladder.engine.ServerScratch;
import org.wornladder.engine.ServerUrl;
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

/** MariaDB and MySQL: servers whose changes of structure commit by themselves. */
public final class MariadbEngine implements Engine {
  private static final Pattern LOCAL_FILE =
      Pattern.compile("\\bLOAD\\b.*\\bLOCAL\\b", Pattern.CASE_INSENSITIVE | Pattern.DOTALL);

  /** MariaDB documentation, "SQL statements That Cause an Implicit Commit". */
  private static final ImplicitCommits COMMITS =
      new ImplicitCommits(
          Set.of("INSERT", "UPDATE", "DELETE", "REPLACE", "SELECT", "WITH", "DO", "VALUES"));

  private static final StorageTypes STORAGE =
      new StorageTypes(
          "bigint",
          "integer",
          "varchar(64)",
          "text",
          "longtext",
          StorageTypes.NOT_NULL,
          " ENGINE = InnoDB DEFAULT CHARSET = utf8mb4 COLLATE = utf8mb4_bin");

  static final Quoting QUOTING = new Quoting('`', Quoting.Backslash.ESCAPES);
  static final String JDBC = "jdbc:mariadb:";

  private static final Set<Ability> ABILITIES =
      Set.of(
          Ability.BATCHES,
          Ability.ATTIC,
          Ability.ROLES,
          Ability.LOCK_TIMEOUT,
          Ability.STATEMENT_TIMEOUT,
          Ability.COLUMN_POSITIONS);

  private static final ServerScratch.Words SCRATCH =
      new ServerScratch.Words(
          "SELECT schema_name FROM information_schema.schemata WHERE schema_name LIKE %s AND NOT"
              + " EXISTS (SELECT 1 FROM information_schema.processlist WHERE db = schema_name)",
          "DROP DATABASE IF EXISTS %s");

  private static final ExternalStatements OUTSIDE =
      new ExternalStatements(
          Set.of("ROLE", "USER", "DATABASE", "SCHEMA", "TABLESPACE", "SERVER", "PLUGIN"),
          Set.of(),
          true);

  @Override
  public String name() {
    return "mariadb";
  }

  @Override
  public boolean accepts(String url) {
    return ServerUrl.begins(url, MariadbUrl.SCHEMES);
  }

  @Override
  public Dialect dialect() {
    return Dialects.MARIADB;
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
    return COMMITS.joins(statement);
  }

  @Override
  public Optional<Objection> objection(Statement statement, boolean insideTransaction) {
    return COMMITS.objection(statement);
  }

  @Override
  public Session open(Target target, Access access) {
    return MariadbSession.open(target, access);
  }

  @Override
  public boolean isOnServer() {
    return true;
  }

  @Override
  public ScratchDatabase scratch(Target server, Environment like, String project, Clock clock) {
    return new ServerScratch(this, SCRATCH).make(server, like, project, clock);
  }

  /** The driver sends a file only for a statement that begins so (MariaDB, "LOAD DATA INFILE"). */
  @Override
  public Optional<String> reachesClient(Statement statement) {
    List<String> words = StatementWords.first(statement, 6);
    boolean loads = words.get(0).equals("LOAD") && words.contains("LOCAL");
    boolean inComment =
        words.get(0).startsWith("/*") && LOCAL_FILE.matcher(statement.text()).find();
    return loads || inComment
        ? Optional.of("LOAD DATA LOCAL sends a file of this machine")
        : Optional.empty();
  }

  @Override
  public Optional<String> reachesOut(Statement statement) {
    return OUTSIDE.in(statement).or(() -> MariadbNames.otherDatabase(statement));
  }

  @Override
  public StorageTypes storage() {
    return STORAGE;
  }

  @Override
  public VariableSyntax clientVariables() {
    return new MariadbVariables();
  }
}

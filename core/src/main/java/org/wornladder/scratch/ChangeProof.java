package org.wornladder.scratch;

import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.wornladder.change.CreationScript;
import org.wornladder.change.Difference;
import org.wornladder.change.Differences;
import org.wornladder.change.IgnoreFilter;
import org.wornladder.engine.Session;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.schema.Snapshot;

/** Runs changes in a scratch database, and compares what they make with what they should make. */
public final class ChangeProof {
  private static final int MOST_NAMED = 3;

  private final EnvironmentContext context;
  private final IgnoreFilter ignored;

  /**
   * @param context of an empty scratch database
   */
  public ChangeProof(EnvironmentContext context, IgnoreFilter ignored) {
    this.context = context;
    this.ignored = ignored;
  }

  /** Makes a structure; false if what is there then is another one. */
  public boolean make(Snapshot structure) throws SQLException {
    try {
      for (String statement :
          CreationScript.of(structure.objects(), session().ddl()).statements()) {
        execute(statement);
      }
    } catch (SQLException e) {
      return false;
    }
    return differences(structure).isEmpty();
  }

  /** The structure that is there now. */
  public Snapshot read() throws SQLException {
    return context.structure().snapshot().withoutRights();
  }

  /**
   * Runs statements.
   *
   * @param name what they are, for people
   * @return what is wrong: the statement that fails, or in what the structure differs from the one
   *     that they should make
   */
  public Optional<String> run(String name, List<String> statements, Snapshot wanted)
      throws SQLException {
    for (String statement : statements) {
      try {
        execute(statement);
      } catch (SQLException e) {
        return Optional.of(
            name + " fails: " + session().fault(e).message() + ", at: " + firstLine(statement));
      }
    }
    List<Difference> left = differences(wanted);
    return left.isEmpty()
        ? Optional.empty()
        : Optional.of(
            "after "
                + name
                + " this differs: "
                + left.stream()
                    .limit(MOST_NAMED)
                    .map(Difference::description)
                    .collect(Collectors.joining(", "))
                + (left.size() > MOST_NAMED ? " and " + (left.size() - MOST_NAMED) + " more" : ""));
  }

  private List<Difference> differences(Snapshot wanted) throws SQLException {
    return Differences.butForOrder(ignored.without(Differences.between(wanted, read())));
  }

  /** Runs statements. */
  public void execute(List<String> statements) throws SQLException {
    for (String statement : statements) {
      execute(statement);
    }
  }

  private void execute(String statement) throws SQLException {
    context.execute(statement);
  }

  private Session session() {
    return context.session();
  }

  private static String firstLine(String statement) {
    int end = statement.indexOf('\n');
    return end < 0 ? statement : statement.substring(0, end) + " …";
  }
}

package org.wornladder.execution;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.change.Difference;
import org.wornladder.engine.Engine;
import org.wornladder.engine.StatementTarget;
import org.wornladder.engine.StatementTargets;
import org.wornladder.project.Direction;
import org.wornladder.project.Environment;
import org.wornladder.project.Project;
import org.wornladder.project.StandingScript;
import org.wornladder.schema.Kind;
import org.wornladder.sql.Statement;

/** The objects that standing scripts make: theirs, and no part of a rung. */
public final class StandingObjects {
  private final List<Owned> owned = new ArrayList<>();

  /** An object, and the file of the script that makes it. */
  private record Owned(StatementTarget target, String file) {}

  /** Reads what the project's scripts make in an environment. */
  public StandingObjects(Project project, Engine engine, Environment environment) {
    ScriptPreparation preparation = new ScriptPreparation(engine, environment);
    for (StandingScript script : project.standing()) {
      for (Statement statement : preparation.statements(script.script(), Direction.UP)) {
        StatementTargets.of(statement)
            .filter(target -> target.change() == StatementTarget.Change.MAKES)
            .ifPresent(target -> owned.add(new Owned(target, script.script().file())));
      }
    }
  }

  /** The file of the script that makes what differs; empty if none does. */
  public Optional<String> maker(Difference difference) {
    return owned.stream()
        .filter(one -> isSame(one.target(), difference))
        .map(Owned::file)
        .findFirst();
  }

  private static boolean isSame(StatementTarget target, Difference difference) {
    String name = difference.name();
    int arguments = name.indexOf('(');
    String plain = (arguments < 0 ? name : name.substring(0, arguments)).replace("\"", "");
    boolean sameName =
        plain.equalsIgnoreCase(target.name().plain())
            || plain.equalsIgnoreCase(target.name().text());
    boolean sameTable =
        difference.table().isEmpty()
            || target.table().isEmpty()
            || difference.table().equalsIgnoreCase(target.table().plain())
            || difference.table().equalsIgnoreCase(target.table().text());
    return sameName && sameTable && isKind(target.kind(), difference.kind());
  }

  private static boolean isKind(StatementTarget.Kind made, Kind found) {
    return switch (found) {
      case VIEW, MATERIALISED_VIEW -> made == StatementTarget.Kind.VIEW;
      case FUNCTION, AGGREGATE -> made == StatementTarget.Kind.FUNCTION;
      default -> made.name().equals(found.name());
    };
  }
}

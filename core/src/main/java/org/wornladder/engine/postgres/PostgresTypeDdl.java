package org.wornladder.engine.postgres;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import org.wornladder.engine.SequenceClauses;
import org.wornladder.schema.Column;
import org.wornladder.schema.CompositeType;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.DomainType;
import org.wornladder.schema.EnumType;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Part;
import org.wornladder.schema.Sequence;

/**
 * Writes types and sequences for PostgreSQL (manual, "CREATE TYPE", "CREATE DOMAIN", "CREATE
 * SEQUENCE").
 *
 * @param objects writes an object's name
 * @param names writes a column's name
 * @param columns writes attributes
 * @param constraints writes a domain's checks
 */
record PostgresTypeDdl(
    Function<ObjectId, String> objects,
    UnaryOperator<String> names,
    PostgresColumnDdl columns,
    Function<Part, String> constraints) {

  /** The statement that creates a type or sequence; empty if it is neither. */
  Optional<String> create(DatabaseObject object) {
    if (object instanceof Sequence sequence) {
      return Optional.of(
          "CREATE "
              + (isUnlogged(sequence) ? "UNLOGGED " : "")
              + "SEQUENCE "
              + objects.apply(sequence.id())
              + SequenceClauses.of(sequence.settings()));
    }
    if (object instanceof EnumType type) {
      List<String> labels = type.labels().stream().map(PostgresEngine.QUOTING::text).toList();
      return Optional.of(createType(type, "ENUM (" + String.join(", ", labels) + ")"));
    }
    if (object instanceof CompositeType type) {
      List<String> attributes = type.attributes().stream().map(columns::attribute).toList();
      return Optional.of(createType(type, "(" + String.join(", ", attributes) + ")"));
    }
    return object instanceof DomainType type ? Optional.of(createDomain(type)) : Optional.empty();
  }

  private String createType(DatabaseObject type, String what) {
    return "CREATE TYPE " + objects.apply(type.id()) + " AS " + what;
  }

  private String createDomain(DomainType type) {
    StringBuilder text = new StringBuilder("CREATE DOMAIN ");
    text.append(objects.apply(type.id())).append(" AS ").append(type.type());
    type.more(Column.COLLATION).ifPresent(name -> text.append(" COLLATE ").append(name));
    type.more(Column.DEFAULT).ifPresent(value -> text.append(" DEFAULT ").append(value));
    text.append(type.nullable() ? "" : " NOT NULL");
    type.checks().forEach(check -> text.append(' ').append(constraints.apply(check)));
    return text.toString();
  }

  /** The statements that make other facts of a type or sequence, but for its comment. */
  List<String> alter(DatabaseObject before, DatabaseObject after, List<String> changed) {
    if (after instanceof Sequence sequence) {
      return alterSequence((Sequence) before, sequence);
    }
    if (after instanceof EnumType type) {
      String alter = "ALTER TYPE " + objects.apply(type.id()) + " ";
      return PostgresEnums.additions((EnumType) before, type).stream().map(alter::concat).toList();
    }
    return alterDomain((DomainType) after, changed);
  }

  /** Its position stays, whatever else changes. */
  private List<String> alterSequence(Sequence before, Sequence after) {
    String alter = "ALTER SEQUENCE " + objects.apply(after.id());
    List<String> statements = new ArrayList<>();
    if (!before.settings().equals(after.settings())) {
      Map<String, String> changed = new TreeMap<>(after.settings());
      changed.entrySet().removeAll(before.settings().entrySet());
      boolean stops = SequenceClauses.stopsCycling(before, after);
      statements.add(alter + SequenceClauses.of(changed) + (stops ? " NO CYCLE" : ""));
    }
    if (!before.ownerTable().equals(after.ownerTable())
        || !before.ownerColumn().equals(after.ownerColumn())) {
      String owner =
          after
              .ownerTable()
              .map(table -> objects.apply(table) + "." + names.apply(after.ownerColumn()))
              .orElse("NONE");
      statements.add(alter + " OWNED BY " + owner);
    }
    if (isUnlogged(before) != isUnlogged(after)) {
      statements.add(alter + " SET " + (isUnlogged(after) ? "UNLOGGED" : "LOGGED"));
    }
    return statements;
  }

  private static boolean isUnlogged(Sequence sequence) {
    return sequence.more().containsKey(PostgresDdl.UNLOGGED);
  }

  private List<String> alterDomain(DomainType after, List<String> changed) {
    String alter = "ALTER DOMAIN " + objects.apply(after.id()) + " ";
    List<String> statements = new ArrayList<>();
    if (changed.contains(Column.DEFAULT)) {
      Optional<String> value = after.more(Column.DEFAULT);
      statements.add(alter + value.map(now -> "SET DEFAULT " + now).orElse("DROP DEFAULT"));
    }
    if (changed.contains(Column.NULLABLE)) {
      statements.add(alter + (after.nullable() ? "DROP NOT NULL" : "SET NOT NULL"));
    }
    return statements;
  }
}

package org.wornladder.service;

import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import org.wornladder.Advice;
import org.wornladder.DatabaseReport;
import org.wornladder.ProjectException;
import org.wornladder.RefusedException;
import org.wornladder.StructureSql;
import org.wornladder.change.CreationScript;
import org.wornladder.engine.Access;
import org.wornladder.engine.Documents;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ProjectContext;
import org.wornladder.project.Secrets;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Snapshot;
import org.wornladder.sql.Place;

/** Shows what is in a database. */
public record ShowService(ProjectContext project) {
  /** All tables and other objects. */
  public DatabaseReport show(Optional<String> environment) {
    return project.in(
        environment,
        Access.READ,
        context -> {
          Schema schema = shown(context);
          return new DatabaseReport(
              context.environment().name(),
              context.session().address(),
              context.session().isThere(),
              schema,
              context.session().rowCounts(schema));
        });
  }

  /** One table with its first rows. */
  public DatabaseReport.OfTable table(Optional<String> environment, String table, int rows) {
    return project.in(
        environment,
        Access.READ,
        context -> {
          if (context.session().documents().isPresent()) {
            throw RefusedException.of(
                table + " has documents, which have no columns",
                "environment " + context.environment().name(),
                Advice.of(Advice.Code.SHOW_FIELDS, context.environment().name(), table));
          }
          return new TableReader(context.session(), context.engine(), context.environment())
              .read(shown(context), table, rows);
        });
  }

  /**
   * The fields of a collection's documents, inferred from some of them.
   *
   * @param documents how many are looked at
   */
  public DatabaseReport.OfFields fields(
      Optional<String> environment, String collection, int documents) {
    return project.in(
        environment,
        Access.READ,
        context -> {
          Documents all =
              context
                  .session()
                  .documents()
                  .orElseThrow(
                      () ->
                          RefusedException.of(
                              context.environment().name()
                                  + " has tables, whose columns need not be inferred",
                              "environment " + context.environment().name(),
                              Advice.of(Advice.Code.LIST_TABLES, context.environment().name())));
          Schema schema = context.structure();
          DatabaseObject found = table(List.copyOf(schema.tables()), collection, context);
          return new DatabaseReport.OfFields(
              context.environment().name(),
              found.name(),
              context.session().rowCounts(schema).getOrDefault(found.name(), 0L),
              all.fields(found.name(), documents));
        });
  }

  /**
   * The structure as statements, in an order that runs.
   *
   * @param table the only table that is wanted; empty for all of the structure
   */
  public StructureSql sql(Optional<String> environment, Optional<String> table) {
    return project.in(
        environment,
        Access.READ,
        context -> {
          Snapshot there = shown(context).snapshot();
          List<DatabaseObject> objects = there.objects();
          List<DatabaseObject> wanted =
              table.isEmpty() ? objects : List.of(table(objects, table.get(), context));
          return new StructureSql(
              CreationScript.of(wanted, context.session().ddl()),
              context.engine().dialect(),
              table.isEmpty() ? there.unseenKinds() : List.of());
        });
  }

  /** The structure without the secrets that are part of definitions. */
  private static Schema shown(EnvironmentContext context) throws SQLException {
    Secrets secrets = context.environment().definitionSecrets();
    return context.structure().map(secrets::mask);
  }

  private static DatabaseObject table(
      List<DatabaseObject> objects, String name, EnvironmentContext context) {
    return objects.stream()
        .filter(object -> object.kind().isTable() && object.name().equalsIgnoreCase(name))
        .findFirst()
        .orElseThrow(
            () ->
                ProjectException.of(
                    Place.of("environment " + context.environment().name()),
                    "there is no table " + name,
                    Advice.of(Advice.Code.LIST_TABLES, context.environment().name())));
  }
}

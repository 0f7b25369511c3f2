package org.wornladder.entity;

import java.nio.file.Path;
import java.sql.DatabaseMetaData;
import java.sql.SQLException;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.UnaryOperator;
import org.wornladder.ProjectException;
import org.wornladder.RefusedException;
import org.wornladder.StructureModel;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ProjectContext;
import org.wornladder.project.EntitySettings;
import org.wornladder.schema.Snapshot;
import org.wornladder.sql.Place;
import org.wornladder.sql.Quoting;

/**
 * The tables of compiled entity classes, which are read and never loaded.
 *
 * @param label what it is, for people
 * @param places folders of classes, jars, and folders of jars
 */
public record EntityModel(String label, List<Path> places, EntitySettings settings)
    implements StructureModel {
  public EntityModel {
    places = List.copyOf(places);
  }

  /**
   * The entities of a project.
   *
   * @param places where the classes are, relative to the project; none for those that the settings
   *     name
   * @throws RefusedException if neither names one
   */
  public static EntityModel of(ProjectContext project, List<String> places) {
    EntitySettings settings = project.project().settings().entities();
    List<String> named = places.isEmpty() ? settings.classes() : places;
    if (named.isEmpty()) {
      throw RefusedException.of(
          "the folder of the entity classes is not configured",
          "ladder.yaml",
          "write entities: { classes: [target/classes] } there");
    }
    return new EntityModel(
        String.join(", ", named),
        named.stream().map(project.project().root()::resolve).toList(),
        settings);
  }

  /**
   * {@inheritDoc}
   *
   * @throws ProjectException if no tables follow from the classes, with the class and the attribute
   * @throws RefusedException if the engine does not take what the classes say
   */
  @Override
  public Snapshot structure(EnvironmentContext scratch) throws SQLException {
    for (String statement : statements(scratch)) {
      try {
        scratch.execute(statement);
      } catch (SQLException e) {
        throw RefusedException.of(
            scratch.engine().name()
                + " does not take what the classes say: "
                + scratch.session().fault(e).message(),
            statement.lines().findFirst().orElse(statement),
            "see what the class says, or write another type under entities: types: in"
                + " ladder.yaml");
      }
    }
    return scratch.structure().snapshot();
  }

  private List<String> statements(EnvironmentContext scratch) throws SQLException {
    String engine = scratch.engine().name().toLowerCase(Locale.ROOT);
    try (ClassPath path = new ClassPath(places)) {
      KnownAnnotations known = new KnownAnnotations(Set.copyOf(settings.passOver()));
      ClassMapping classes = new ClassMapping(path, known);
      TypeTable types = new TypeTable(engine, settings.types(), settings.nativeEnums());
      BasicTypes basics = new BasicTypes(classes, types, settings.nativeEnums());
      EntityTables tables =
          new EntityTables(
              classes,
              basics,
              settings.snakeCase() ? Naming.SNAKE_CASE : Naming.AS_WRITTEN,
              !engine.equals("sqlite"));
      return new ModelSql(engine, types, quoting(scratch)).statements(tables);
    } catch (ModelException e) {
      throw ProjectException.of(Place.of(e.where()), e.getMessage(), e.next());
    }
  }

  /** Names without quotes are kept as the database keeps them (JDBC, DatabaseMetaData). */
  private static UnaryOperator<String> quoting(EnvironmentContext scratch) throws SQLException {
    DatabaseMetaData says = scratch.session().connection().getMetaData();
    boolean upper = says.storesUpperCaseIdentifiers();
    boolean lower = says.storesLowerCaseIdentifiers();
    Quoting quoting = scratch.engine().quoting();
    return name ->
        quoting.name(
            Naming.isQuoted(name)
                ? Naming.plain(name)
                : upper
                    ? name.toUpperCase(Locale.ROOT)
                    : lower ? name.toLowerCase(Locale.ROOT) : name);
  }
}

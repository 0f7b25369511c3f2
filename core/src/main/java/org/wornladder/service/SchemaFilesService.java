package org.wornladder.service;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Consumer;
import org.wornladder.Advice;
import org.wornladder.DirectChange;
import org.wornladder.DraftOptions;
import org.wornladder.RefusedException;
import org.wornladder.RunListener;
import org.wornladder.SchemaFileChanges;
import org.wornladder.change.ChangeScript;
import org.wornladder.change.ChangeScript.Origin;
import org.wornladder.change.Ddl;
import org.wornladder.change.Difference;
import org.wornladder.change.Differences;
import org.wornladder.change.IgnoreFilter;
import org.wornladder.engine.Ability;
import org.wornladder.engine.Access;
import org.wornladder.engine.DatabaseErrors;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ProjectContext;
import org.wornladder.project.Environment;
import org.wornladder.project.SchemaFiles;
import org.wornladder.project.SchemaWriter;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Snapshot;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Place;
import org.wornladder.sql.Statement;

/** Keeps the declared structure equal to the ladder, or to a database without a rung. */
public record SchemaFilesService(ProjectContext project) {
  /** Brings {@code schema/} to what the ladder builds. */
  public SchemaFileChanges refresh(List<String> only) {
    Environment like = project.environments().read(Optional.empty());
    return write(like, sources().scratch().ofRungs(like, OptionalLong.empty()), only);
  }

  /** Brings {@code schema/} to what is in a database. */
  public SchemaFileChanges fromDatabase(String environment, List<String> only) {
    Environment like = project.environments().read(Optional.of(environment));
    Snapshot live = project.in(like, Access.READ, context -> context.structure().snapshot());
    return write(like, live, only);
  }

  /**
   * In what {@code schema/} differs from the ladder, as far as that is found out without a server;
   * nothing if there are no files.
   */
  public List<Difference> disagreement() {
    if (SchemaFiles.read(project.project().root()).isEmpty()) {
      return List.of();
    }
    Environment like = project.environments().read(Optional.empty());
    if (!sources().scratch().isAtHand(like)) {
      return List.of();
    }
    Snapshot ladder = sources().scratch().ofRungs(like, OptionalLong.empty()).withoutRights();
    DraftSelection selection = new DraftSelection(project, like, DraftOptions.of("check"));
    return selection.of(ladder, declared(like)).differences();
  }

  private StructureSources sources() {
    return new StructureSources(project);
  }

  private SchemaFileChanges write(Environment like, Snapshot whole, List<String> only) {
    Snapshot wanted = whole.withoutRights();
    Ddl ddl = sources().scratch().in(like, context -> context.session().ddl());
    Set<ObjectId> changed = new TreeSet<>();
    for (Difference difference : chosen(declared(like), wanted, only)) {
      changed.add(difference.owner().orElseGet(() -> ((DatabaseObject) difference.either()).id()));
    }
    List<DatabaseObject> objects = new ArrayList<>();
    List<String> deleted = new ArrayList<>();
    for (ObjectId id : changed) {
      wanted
          .object(id)
          .ifPresentOrElse(
              objects::add,
              () ->
                  SchemaWriter.delete(
                          project.project().root(), DeclaredObjects.folder(id), id.name())
                      .ifPresent(deleted::add));
    }
    List<String> written =
        SchemaWriter.write(project.project().root(), DeclaredObjects.of(objects, ddl));
    List<Difference> left = changed.isEmpty() ? List.of() : chosen(declared(like), wanted, only);
    return new SchemaFileChanges(written, deleted, left);
  }

  private Snapshot declared(Environment like) {
    return SchemaFiles.read(project.project().root()).isEmpty()
        ? Snapshot.EMPTY
        : sources().scratch().ofSchema(like).withoutRights();
  }

  private List<Difference> chosen(Snapshot before, Snapshot after, List<String> only) {
    List<Difference> all = sources().withoutIgnored(Differences.between(before, after));
    return only.isEmpty() ? all : new IgnoreFilter(only).ignored(all);
  }

  /**
   * Brings a database to what {@code schema/} declares, and records nothing of it.
   *
   * @param approval asked with the statements before they run; throws to refuse
   */
  public DirectChange toDatabase(
      String environment,
      List<String> only,
      Consumer<DirectChange> approval,
      RunListener listener) {
    Environment like = project.environments().read(Optional.of(environment));
    if (like.settings().guarded()) {
      throw RefusedException.of(
          environment + " is guarded: it changes by rungs alone",
          "environment " + environment,
          Advice.of(Advice.Code.WRITE_RUNG));
    }
    if (SchemaFiles.read(project.project().root()).isEmpty()) {
      throw RefusedException.of(
          "no structure is declared: schema/ has no files",
          SchemaFiles.FOLDER + "/",
          Advice.of(Advice.Code.WRITE_SCHEMA_FILES));
    }
    Snapshot wanted = sources().scratch().ofSchema(like).withoutRights();
    return project.in(
        like,
        Access.WRITE,
        context ->
            context.locked(
                project.settings(),
                listener::waiting,
                same -> change(same, wanted, only, approval)));
  }

  private DirectChange change(
      EnvironmentContext context,
      Snapshot wanted,
      List<String> only,
      Consumer<DirectChange> approval)
      throws SQLException {
    Snapshot live = context.structure().snapshot();
    ChangeScript script =
        ChangeScript.of(
            chosen(live.withoutRights(), wanted, only),
            live,
            wanted.withRightsOf(live),
            context.session().ddl(),
            Origin.TWO_DATABASES);
    DirectChange change =
        new DirectChange(
            context.environment().name(), script.statements(), script.losses(), script.leftOut());
    if (!script.statements().isEmpty()) {
      approval.accept(change);
      run(context, script.statements());
    }
    return change;
  }

  private static void run(EnvironmentContext context, List<String> texts) throws SQLException {
    Dialect dialect = context.engine().dialect();
    List<Statement> statements =
        texts.stream().map(text -> new Statement(text, Place.of("schema/"), dialect)).toList();
    boolean undone = context.engine().abilities().contains(Ability.TRANSACTIONAL_DDL);
    if (undone) {
      context.session().begin(statements);
    }
    try {
      for (Statement statement : statements) {
        context.session().execute(statement);
      }
      if (undone) {
        context.session().commit();
      }
    } catch (SQLException e) {
      RuntimeException translated =
          DatabaseErrors.translate(
              context.session(), context.environment().name(), "bringing it to schema/", e);
      if (undone) {
        context.session().rollback();
      }
      throw translated;
    }
    context.session().reset();
  }
}

package org.wornladder.scratch;

import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.function.Consumer;
import org.wornladder.LadderException;
import org.wornladder.Preview.Measured;
import org.wornladder.RefusedException;
import org.wornladder.RehearsalReport.OfStatement;
import org.wornladder.UnreachableException;
import org.wornladder.engine.Access;
import org.wornladder.engine.DatabaseLock;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Engines;
import org.wornladder.engine.SchemaStatements;
import org.wornladder.engine.ScratchDatabase;
import org.wornladder.engine.Session;
import org.wornladder.engine.Target;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ProjectContext;
import org.wornladder.journal.Journal.Depth;
import org.wornladder.project.Condition;
import org.wornladder.project.Environment;
import org.wornladder.project.SchemaFiles;
import org.wornladder.project.SchemaFiles.SchemaFile;
import org.wornladder.project.ScratchSettings;
import org.wornladder.schema.Snapshot;
import org.wornladder.sql.Fingerprint;

/** Finds a place for scratch databases, and runs files in them. */
public record ScratchRunner(ProjectContext project) {
  private static final String DEFAULT_JOURNAL = "ladder_journal";

  /**
   * What the rungs and standing scripts make of an empty database.
   *
   * @param upTo the highest number to run; empty for all, and for the standing scripts
   */
  public Snapshot ofRungs(Environment like, OptionalLong upTo) {
    return kept(like, rungsKey(upTo), context -> run(context, upTo));
  }

  /** Runs the rungs and standing scripts in a scratch database, and reads what they made. */
  public Snapshot run(EnvironmentContext context, OptionalLong upTo) throws SQLException {
    createMissingSchemas(context);
    replay(context).rungs(context.planning(context.journal().read(Depth.WHOLE)), upTo);
    return context.structure().snapshot();
  }

  /** Empties a scratch database, which stays recognisable as one. */
  public void empty(EnvironmentContext scratch) throws SQLException {
    scratch.session().empty(List.of());
    ScratchDatabase.prove(scratch.session(), scratch.engine(), project.project().name());
  }

  /** Makes the managed schemas that no rung makes. */
  public void createMissingSchemas(EnvironmentContext context) throws SQLException {
    for (String schema : missingSchemas(context)) {
      context.session().execute(SchemaStatements.create(context.engine(), schema));
    }
  }

  /** What the files in {@code schema/} declare. */
  public Snapshot ofSchema(Environment like) {
    List<SchemaFile> files = SchemaFiles.read(project.project().root());
    return kept(
        like,
        schemaKey(files),
        context -> {
          createSchemas(context);
          replay(context).schema(files);
          return context.structure().snapshot();
        });
  }

  /** Makes the managed schemas. */
  public void createSchemas(EnvironmentContext context) throws SQLException {
    for (String schema : context.environment().settings().schemas()) {
      context.session().execute(SchemaStatements.create(context.engine(), schema));
    }
  }

  /** What was made of the same files before, or is made now. */
  private Snapshot kept(
      Environment like, Consumer<Fingerprint.Parts> files, ProjectContext.Work<Snapshot> work) {
    String key = key(like, files);
    Optional<Snapshot> known = cache(like).read(key);
    if (known.isPresent()) {
      return known.get();
    }
    Snapshot made = in(like, work);
    cache(like).write(key, made);
    return made;
  }

  private StructureCache cache(Environment like) {
    return new StructureCache(folder(like));
  }

  private CacheFolder folder(Environment like) {
    return new CacheFolder(project.project().root(), text -> !like.secrets().isIn(text));
  }

  /** Keeps what the statements of a rung did, for the same text behind the same rungs. */
  public void keep(Environment like, long rung, List<OfStatement> statements) {
    new MeasurementCache(folder(like)).write(measurementKey(like, rung), statements);
  }

  /** What is known of the statements of a rung; none if it was not rehearsed as it is. */
  public List<Measured> measured(Environment like, long rung) {
    return new MeasurementCache(folder(like)).read(measurementKey(like, rung), rung);
  }

  private String measurementKey(Environment like, long rung) {
    Consumer<Fingerprint.Parts> rungs = rungsKey(OptionalLong.of(rung));
    return key(
        like,
        hash -> {
          hash.mark("measured");
          rungs.accept(hash);
        });
  }

  /** No secret is part of it: a structure that depends on one is not kept. */
  private String key(Environment like, Consumer<Fingerprint.Parts> files) {
    Fingerprint.Parts hash = new Fingerprint.Parts();
    add(hash, Snapshot.EMPTY.json(), project.settings().tool(), Engines.of(like).name());
    hash.add(like.secrets().mask(like.url()));
    like.settings().schemas().forEach(hash::add);
    like.values()
        .forEach((name, value) -> add(hash, name, value.secret() ? "secret" : value.text()));
    files.accept(hash);
    return hash.hex();
  }

  /**
   * Whether the structures of the ladder and of {@code schema/} are known already, or can be made
   * on this machine alone.
   */
  public boolean isAtHand(Environment like) {
    List<SchemaFile> files = SchemaFiles.read(project.project().root());
    return !Engines.of(like).isOnServer()
        || cache(like).read(key(like, rungsKey(OptionalLong.empty()))).isPresent()
            && cache(like).read(key(like, schemaKey(files))).isPresent();
  }

  private static Consumer<Fingerprint.Parts> schemaKey(List<SchemaFile> files) {
    return hash -> files.forEach(file -> add(hash, file.name(), file.text()));
  }

  private static void add(Fingerprint.Parts hash, String... texts) {
    for (String text : texts) {
      hash.add(text);
    }
  }

  private Consumer<Fingerprint.Parts> rungsKey(OptionalLong upTo) {
    return hash -> {
      hash.mark(upTo.isPresent() ? "up to" : "all");
      project.project().rungs().stream()
          .filter(rung -> upTo.isEmpty() || rung.number() <= upTo.getAsLong())
          .forEach(rung -> add(hash, rung.file(), rung.script().source()));
      if (upTo.isEmpty()) {
        project
            .project()
            .standing()
            .forEach(one -> add(hash, one.script().file(), one.script().source()));
      }
    };
  }

  /** The managed schemas that no rung makes: they were there before the ladder was. */
  private List<String> missingSchemas(EnvironmentContext context) {
    return context.environment().settings().schemas().stream()
        .filter(
            schema ->
                project.project().rungs().stream()
                    .noneMatch(
                        rung -> SchemaStatements.isCreatedIn(rung.script().source(), schema)))
        .toList();
  }

  private ScratchReplay replay(EnvironmentContext context) {
    return new ScratchReplay(context, isOwnServer());
  }

  /** The project's rungs in a scratch database, to be run one by one. */
  public ScratchLadder ladder(EnvironmentContext scratch) {
    return new ScratchLadder(scratch, isOwnServer());
  }

  private boolean isOwnServer() {
    return project.project().settings().scratch().filter(ScratchSettings::ownServer).isPresent();
  }

  /** Does some work in a new scratch database, which is gone afterwards. */
  public <T> T in(Environment like, ProjectContext.Work<T> work) {
    try (ScratchDatabase scratch = make(like)) {
      return project.in(scratch.environment(), Access.WRITE, work);
    }
  }

  /** A new scratch database; whoever asks for it closes it. */
  public ScratchDatabase make(Environment like) {
    Engine engine = Engines.of(like);
    Optional<ScratchSettings> named =
        project
            .project()
            .settings()
            .scratch()
            .filter(scratch -> engine.accepts(project.environments().read(scratch.server()).url()));
    if (named.isEmpty()) {
      if (like.settings().guarded() && engine.isOnServer()) {
        throw RefusedException.of(
            like.name() + " is guarded: no scratch database is made on its server",
            "environment " + like.name(),
            "name another server, or an empty database, under scratch: in ladder.yaml");
      }
      return engine.scratch(
          target(like), like, project.project().name(), project.settings().clock());
    }
    Environment server = project.environments().read(named.get().server());
    Environment there = like.withRole(server.role());
    return named.get().mayErase() && engine.isOnServer()
        ? erased(engine, server, there)
        : engine.scratch(
            target(server), there, project.project().name(), project.settings().clock());
  }

  private Target target(Environment environment) {
    return project.settings().target(environment, project.project().root());
  }

  /**
   * The database that the settings name, emptied; two runs wait for each other. One that has a
   * journal is somebody's, whatever its URL looks like, unless it was a scratch database before.
   */
  private ScratchDatabase erased(Engine engine, Environment server, Environment like) {
    Session keeper = Engines.open(engine, target(server), Access.WRITE);
    try {
      DatabaseLock lock = keeper.lock(project.settings().lockWait(), project.settings().onWait());
      refuseJournal(keeper);
      keeper.empty(List.of());
      ScratchDatabase.prove(keeper, engine, project.project().name());
      return new Erased(
          keeper, lock, like.inPlaceOf(server.url(), server.user(), server.password()));
    } catch (SQLException e) {
      String words = keeper.fault(e).message();
      keeper.close();
      throw new UnreachableException(
          "the scratch database cannot be emptied: " + words,
          "scratch: in ladder.yaml, " + keeper.address(),
          "grant its user the right to drop what is there",
          e);
    } catch (LadderException e) {
      keeper.close();
      throw e;
    }
  }

  private void refuseJournal(Session session) throws SQLException {
    boolean kept =
        isThere(session, project.project().settings().journalTable())
            || isThere(session, DEFAULT_JOURNAL);
    if (kept && !isThere(session, ScratchDatabase.PROOF)) {
      throw RefusedException.of(
          "the scratch database has a journal: it is in use, and is not emptied",
          "scratch: in ladder.yaml, " + session.address(),
          "name a database that nobody uses");
    }
  }

  private static boolean isThere(Session session, String table) throws SQLException {
    return session.exists(new Condition.Presence(Condition.Kind.TABLE, table, "", true, ""));
  }

  private record Erased(Session keeper, DatabaseLock lock, Environment environment)
      implements ScratchDatabase {
    @Override
    public void close() {
      try (keeper) {
        lock.close();
      }
    }
  }
}

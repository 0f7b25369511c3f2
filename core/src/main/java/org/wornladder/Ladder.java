package org.wornladder;

import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Function;
import javax.sql.DataSource;
import org.wornladder.attic.KeptItem;
import org.wornladder.change.Difference;
import org.wornladder.engine.Engines;
import org.wornladder.entity.EntityModel;
import org.wornladder.execution.ManualResolution.Verdict;
import org.wornladder.execution.Plan;
import org.wornladder.execution.ProjectContext;
import org.wornladder.execution.RuntimeSettings;
import org.wornladder.journal.JournalHead;
import org.wornladder.project.Project;
import org.wornladder.project.ProjectReader;
import org.wornladder.service.AdoptService;
import org.wornladder.service.ApplyService;
import org.wornladder.service.AtticService;
import org.wornladder.service.CaptureService;
import org.wornladder.service.CheckService;
import org.wornladder.service.CompareService;
import org.wornladder.service.DraftService;
import org.wornladder.service.DriftService;
import org.wornladder.service.FoldService;
import org.wornladder.service.MendService;
import org.wornladder.service.RebuildService;
import org.wornladder.service.RehearseService;
import org.wornladder.service.RenumberService;
import org.wornladder.service.RollbackService;
import org.wornladder.service.RungRemovalService;
import org.wornladder.service.SchemaFilesService;
import org.wornladder.service.ScriptService;
import org.wornladder.service.SeedService;
import org.wornladder.service.SettleService;
import org.wornladder.service.ShowService;
import org.wornladder.service.StatusService;
import org.wornladder.service.TemporaryDatabaseService;

/**
 * One project and its environments: the public API. The files are read once, by {@link
 * Builder#build}; every call opens its own session and closes it.
 *
 * <p>Where a call takes an environment, it is its name in {@code ladder.yaml}; empty means the
 * project's default one. Calls throw the leaves of {@link LadderException}, and nothing else that a
 * user can cause. Instances are immutable, and may be used by several threads.
 */
public final class Ladder implements AutoCloseable {
  private final ProjectContext context;

  private final Optional<ClassPathProject> copy;

  private Ladder(ProjectContext context, Optional<ClassPathProject> copy) {
    this.context = context;
    this.copy = copy;
  }

  public static Builder builder() {
    return new Builder();
  }

  /** Collects what a ladder needs. Only the project's folder must be set. */
  public static final class Builder {
    private static final Duration LOCK_WAIT = Duration.ofSeconds(60);

    private Optional<Path> root = Optional.empty();
    private Optional<ClassPathProject> copy = Optional.empty();
    private final Map<String, DataSource> dataSources = new HashMap<>();
    private Optional<DataSource> ofDefault = Optional.empty();
    private Function<String, Optional<String>> variables =
        name -> Optional.ofNullable(System.getenv(name));
    private Duration lockWait = LOCK_WAIT;
    private Duration await = Duration.ZERO;
    private Consumer<String> onWait = what -> {};
    private int retries;
    private String tool = "library";
    private Clock clock = Clock.systemUTC();

    private Builder() {}

    /** The folder with {@code ladder.yaml}. */
    public Builder project(Path folder) {
      refuseSecond();
      root = Optional.of(folder);
      return this;
    }

    /**
     * A project that is packed with the program, such as {@code db/ladder} for {@code
     * db/ladder/ladder.yaml} on the class path. It is copied to a temporary folder, which goes when
     * the ladder is closed.
     *
     * @throws ProjectException if there is none or more than one, or it cannot be copied
     */
    public Builder projectOnClassPath(String folder, ClassLoader loader) {
      refuseSecond();
      copy = Optional.of(ClassPathProject.copy(folder, loader));
      root = copy.map(ClassPathProject::root);
      return this;
    }

    private void refuseSecond() {
      if (root.isPresent()) {
        throw new IllegalStateException("the project is set already: " + root.get());
      }
    }

    /**
     * Connections to an environment, used instead of its url, user and password, which are not read
     * then. They are closed after use.
     */
    public Builder environment(String name, DataSource connections) {
      dataSources.put(name, connections);
      return this;
    }

    /** The same for the default environment. */
    public Builder environment(DataSource connections) {
      ofDefault = Optional.of(connections);
      return this;
    }

    /** Variables for {@code ${NAME}} in the settings, instead of the process's environment. */
    public Builder variables(Map<String, String> values) {
      Map<String, String> copy = Map.copyOf(values);
      variables = name -> Optional.ofNullable(copy.get(name));
      return this;
    }

    /** How long to wait for a lock that somebody else holds; a minute if not set. */
    public Builder lockWait(Duration duration) {
      lockWait = duration;
      return this;
    }

    /**
     * How long to wait for a server that does not answer yet; not at all if not set.
     *
     * @param listener receives once what is waited for
     */
    public Builder await(Duration duration, Consumer<String> listener) {
      await = duration;
      onWait = listener;
      return this;
    }

    /** How often a step is tried again that could not get a lock of the database. */
    public Builder retries(int count) {
      retries = count;
      return this;
    }

    /** The program and its version, as the journal records them. */
    public Builder tool(String version) {
      tool = version;
      return this;
    }

    public Builder clock(Clock other) {
      clock = other;
      return this;
    }

    private RuntimeSettings settings() {
      return new RuntimeSettings(
          variables, dataSources, lockWait, await, onWait, retries, tool, clock);
    }

    private Path root() {
      return root.orElseThrow(() -> new IllegalStateException("the project's folder is not set"));
    }

    /**
     * Reads the project.
     *
     * @throws ProjectException with every error in its files
     */
    public Ladder build() {
      Project project = ProjectReader.read(root(), Engines::isOther);
      ofDefault.ifPresent(
          source -> dataSources.put(project.settings().defaultEnvironment(), source));
      return new Ladder(new ProjectContext(project, settings()), copy);
    }

    /**
     * Moves a rung to the end of the ladder. Asked of the builder, since a project in which two
     * rungs have one number cannot be read.
     *
     * @param named its number, or its file where two have one number
     * @param confirmed environments that cannot be reached and of which a person says that they do
     *     not have the rung
     * @param approval asked with the environments in whose journals the rung gets its new number;
     *     not asked if there are none; throws to refuse
     * @throws RefusedException if none or two are meant, a guarded environment has it, or one
     *     cannot be asked and is not confirmed
     */
    public RenumberResult renumber(
        String named,
        Set<String> confirmed,
        Consumer<List<String>> approval,
        RunListener listener) {
      return RenumberService.of(root(), settings(), named).move(confirmed, approval, listener);
    }
  }

  /** The files as they were read. */
  public Project project() {
    return context.project();
  }

  /** No connection is held between calls: what goes is the copy of a project on the class path. */
  @Override
  public void close() {
    copy.ifPresent(ClassPathProject::delete);
  }

  /** Examines the files without a database, with the process's environment variables. */
  public static CheckReport check(Path root) {
    return check(root, System.getenv());
  }

  /**
   * Examines the files without a database.
   *
   * @param variables the environment variables, by which it may be known for what engine they are
   */
  public static CheckReport check(Path root, Map<String, String> variables) {
    return CheckService.files(
        ProjectReader.examine(root, Engines::isOther),
        name -> Optional.ofNullable(variables.get(name)));
  }

  /**
   * Compares the files with one environment's journal.
   *
   * @param head an entry that must be in the journal, as {@link #history} gave it some time ago
   */
  public CheckReport.Against checkAgainst(
      Optional<String> environment, Optional<JournalHead> head) {
    return CheckService.against(context, environment, head);
  }

  /** What a roll-back would do. */
  public Plan previewRollback(Optional<String> environment, RollbackOptions options) {
    return new RollbackService(context).preview(environment, options);
  }

  /** What apply would do, without values of rows. */
  public Preview preview(Optional<String> environment, ApplyOptions options) {
    return preview(environment, options, false);
  }

  /**
   * What apply would do.
   *
   * @param showRows whether keys of rows may be among the risks
   */
  public Preview preview(Optional<String> environment, ApplyOptions options, boolean showRows) {
    return new ApplyService(context).preview(environment, options, showRows);
  }

  /**
   * What apply would do, as one script for the engine's own client, the journal's entries included.
   *
   * @param content what the script does
   */
  public ClientSqlScript script(
      Optional<String> environment, ApplyOptions options, ClientSqlScript.Content content) {
    return new ScriptService(context).script(environment, options, content);
  }

  /** Runs the waiting rungs and the standing scripts, unless the environment is guarded. */
  public RunResult apply(Optional<String> environment, ApplyOptions options) {
    return apply(environment, options, Approval.UNATTENDED, RunListener.SILENT);
  }

  /**
   * Runs the waiting rungs and the standing scripts.
   *
   * @param approval asked once with the plan, if there is anything to do
   */
  public RunResult apply(
      Optional<String> environment, ApplyOptions options, Approval approval, RunListener listener) {
    return new ApplyService(context).apply(environment, options, approval, listener);
  }

  /** Runs ways down, where the environment is disposable. */
  public RunResult rollback(Optional<String> environment, RollbackOptions options) {
    return rollback(environment, options, Approval.UNATTENDED, RunListener.SILENT);
  }

  /**
   * Runs ways down.
   *
   * @param approval asked once with the plan, if there is anything to do
   */
  public RunResult rollback(
      Optional<String> environment,
      RollbackOptions options,
      Approval approval,
      RunListener listener) {
    return new RollbackService(context).rollback(environment, options, approval, listener);
  }

  /**
   * Says of a statement in doubt whether it took effect, on the record.
   *
   * @param because why, in a person's words
   */
  public void settle(
      Optional<String> environment,
      long number,
      Verdict verdict,
      String because,
      Approval approval,
      RunListener listener) {
    new SettleService(context).settle(environment, number, verdict, because, approval, listener);
  }

  /**
   * Takes the edited file of a worn or stuck rung as the one that ran, on the record.
   *
   * @param because why, in a person's words
   * @param fileApproval asked where a stuck rung's file does not have what ran as it ran
   */
  public void acceptFile(
      Optional<String> environment,
      long number,
      String because,
      Approval approval,
      AcceptedFileApproval fileApproval,
      RunListener listener) {
    new SettleService(context)
        .acceptFile(environment, number, because, approval, fileApproval, listener);
  }

  /**
   * Takes a journal whose hash chain is broken as it is, on the record: commands that change the
   * database work again.
   *
   * @param because why, in a person's words
   */
  public void acceptJournal(
      Optional<String> environment, String because, Approval approval, RunListener listener) {
    new SettleService(context).acceptJournal(environment, because, approval, listener);
  }

  /**
   * Makes a database of its own that has all rungs and standing scripts in place, such as a test
   * wants. Whoever asks for it closes it.
   *
   * @param like the environment on whose engine, and on whose server, it is; the default one if
   *     empty. On the server of a guarded environment none is made.
   * @param seed whether it has the reference data, too
   */
  public TemporaryDatabase temporaryDatabase(Optional<String> like, boolean seed) {
    return new TemporaryDatabaseService(context).make(like, seed);
  }

  /**
   * Asks whoever changes an environment in batches to end behind the one that is running.
   *
   * @return who it is
   * @throws RefusedException if no run is changing it
   */
  public String askToStop(Optional<String> environment) {
    return new ApplyService(context).askToStop(environment);
  }

  /** What was kept aside of what rungs erased, the oldest first. */
  public List<KeptItem> attic(Optional<String> environment) {
    return new AtticService(context).list(environment);
  }

  /**
   * Brings back something that was kept aside, on the record.
   *
   * @param entry the journal's entry that says that it is kept
   * @return what was done, in words
   */
  public String restoreFromAttic(
      Optional<String> environment, long entry, Approval approval, RunListener listener) {
    return new AtticService(context).restore(environment, entry, approval, listener);
  }

  /**
   * Drops what has been kept aside for some time, on the record.
   *
   * @return what was dropped
   */
  public List<KeptItem> emptyAttic(
      Optional<String> environment, Duration olderThan, Approval approval, RunListener listener) {
    return new AtticService(context).empty(environment, olderThan, approval, listener);
  }

  /** The ladder in one environment, rung by rung. */
  public Status status(Optional<String> environment) {
    return new StatusService(context).status(environment);
  }

  /**
   * What an environment should have, without rows, as a text for {@link RehearseOptions#expected}.
   *
   * @throws RefusedException if the structure holds the value of a variable
   */
  public String expectedStructure(Optional<String> environment) {
    return new StatusService(context).expected(environment);
  }

  /** The journal of one environment, its hash chain checked. */
  public JournalReport history(Optional<String> environment) {
    return new StatusService(context).history(environment);
  }

  /** What is in one environment. */
  public DatabaseReport show(Optional<String> environment) {
    return new ShowService(context).show(environment);
  }

  /** One table with its first rows. */
  public DatabaseReport.OfTable showTable(Optional<String> environment, String table, int rows) {
    return new ShowService(context).table(environment, table, rows);
  }

  /**
   * The fields of a collection of a document database, inferred from its first documents.
   *
   * @param environment its name; empty for the default one
   * @param documents how many of them are looked at
   */
  public DatabaseReport.OfFields showFields(
      Optional<String> environment, String collection, int documents) {
    return new ShowService(context).fields(environment, collection, documents);
  }

  /**
   * The structure of an environment as statements, in an order that runs.
   *
   * @param table the only table that is wanted; empty for all of the structure
   */
  public StructureSql ddl(Optional<String> environment, Optional<String> table) {
    return new ShowService(context).sql(environment, table);
  }

  /**
   * Whether a database is what its history says, or what the files build.
   *
   * @param rights whether owners and grants count
   */
  public DriftReport drift(Optional<String> environment, Against against, boolean rights) {
    return new DriftService(context).drift(environment, against, rights);
  }

  /**
   * The statements that would bring a database back to what it should be.
   *
   * @param rights whether owners and grants are brought back too
   */
  public MendScript mendScript(Optional<String> environment, Against against, boolean rights) {
    return new MendService(context).script(environment, against, rights);
  }

  /**
   * Writes a rung that makes elsewhere what was found in a database, and records it as in place
   * here.
   */
  public DriftRung driftAsRung(
      Optional<String> environment, String words, Approval approval, RunListener listener) {
    return new MendService(context).writeRung(environment, words, approval, listener);
  }

  /**
   * Compares two structures.
   *
   * @param left {@code env:NAME} for what is there, {@code expected:NAME} for what its history says
   *     should be, {@code rungs} or {@code schema} for what the files build, {@code entities} for
   *     what the project's entity classes say
   * @param right the same
   * @param rights whether owners and grants count, where both are of one engine
   */
  public ComparisonResult compare(String left, String right, boolean rights) {
    return new CompareService(context).compare(left, right, rights);
  }

  /**
   * The tables that compiled entity classes describe, for a draft.
   *
   * @param places folders of classes, jars, and folders of jars, relative to the project; none for
   *     those that the settings name
   * @throws RefusedException if neither names one
   */
  public StructureModel entities(List<String> places) {
    return EntityModel.of(context, places);
  }

  /** Writes a rung from the difference between the ladder and the structure that is wanted. */
  public Draft draft(DraftOptions options, DraftQuestions questions) {
    return new DraftService(context).draft(options, questions);
  }

  /**
   * Writes the difference as a series of rungs, between any two of which the programs of before and
   * after can be at work.
   *
   * @return one for each rung; none if nothing differs
   */
  public List<Draft> draftInStages(DraftOptions options, DraftQuestions questions) {
    return new DraftService(context).staged(options, questions);
  }

  /**
   * Puts the difference into the newest rung, while no guarded environment has it.
   *
   * @param approval asked before anything is changed
   */
  public Draft extendNewestRung(
      DraftOptions options,
      DraftQuestions questions,
      ExtensionApproval approval,
      RunListener listener) {
    return new DraftService(context).extend(options, questions, approval, listener);
  }

  /**
   * Makes one rung of many, for new databases. Databases that have the old ones go on as they are.
   *
   * @throws RefusedException if what they build is not the same everywhere, an environment has some
   *     of them alone, or the one rung would not build the same
   */
  public Fold fold(FoldOptions options, FoldQuestions questions) {
    return new FoldService(context).fold(options, questions);
  }

  /**
   * Writes the way down of a rung that has none.
   *
   * @param write whether its file gets it; otherwise it is only planned
   */
  public Draft draftWayDown(long number, boolean write) {
    return new DraftService(context).wayDown(number, write);
  }

  /**
   * The statements that an environment's server has counted, as callers; nothing is written.
   *
   * @throws RefusedException if the server counts none, or not for this user
   */
  public CapturedCallers captureCallers(Optional<String> environment) {
    return new CaptureService(context).capture(environment);
  }

  /** Proves the waiting rungs in a scratch database like an environment, which is only read. */
  public RehearsalReport rehearse(Optional<String> environment, RehearseOptions options) {
    return new RehearseService(context).rehearse(environment, options);
  }

  /**
   * Brings {@code schema/} to what the ladder builds, or to what is in a database.
   *
   * @param database the environment; empty for the ladder
   * @param only patterns such as {@code table:bin*} of what is taken; empty for everything
   */
  public SchemaFileChanges writeSchemaFiles(Optional<String> database, List<String> only) {
    SchemaFilesService files = new SchemaFilesService(context);
    return database.isPresent() ? files.fromDatabase(database.get(), only) : files.refresh(only);
  }

  /**
   * In what {@code schema/} differs from what the ladder builds, as far as that can be found out
   * without a server; nothing if there is no declared structure.
   */
  public List<Difference> schemaDisagreement() {
    return new SchemaFilesService(context).disagreement();
  }

  /**
   * Brings a database that is not guarded to what {@code schema/} declares, without a rung.
   *
   * @param only patterns of what is taken; empty for everything
   * @param approval asked with the statements before they run; throws to refuse
   */
  public DirectChange applySchemaFiles(
      String environment,
      List<String> only,
      Consumer<DirectChange> approval,
      RunListener listener) {
    return new SchemaFilesService(context).toDatabase(environment, only, approval, listener);
  }

  /** Takes a database that exists under management. */
  public AdoptResult adopt(
      Optional<String> environment, AdoptOptions options, Approval approval, RunListener listener) {
    return new AdoptService(context).adopt(environment, options, approval, listener);
  }

  /** Seeds without asking: a guarded environment is refused. */
  public SeedRunResult seed(Optional<String> environment, SeedOptions options) {
    return seed(environment, options, SeedApproval.UNATTENDED, SeedListener.SILENT);
  }

  /**
   * Brings rows to what the seeds say, all of them in one transaction.
   *
   * @param approval asked once with what would be done, if there is anything to do
   */
  public SeedRunResult seed(
      Optional<String> environment,
      SeedOptions options,
      SeedApproval approval,
      SeedListener listener) {
    return new SeedService(context).seed(environment, options, approval, listener);
  }

  /**
   * Writes guesses of how the rows of tables could be made up, one file a table, to be edited.
   *
   * @param overwrite whether files that are there are written over
   * @return the files, relative to the project
   * @throws RefusedException if one is there and may not be written over
   */
  public List<String> writeSample(
      Optional<String> environment, SeedOptions.SampleOrder order, boolean overwrite) {
    return new SeedService(context).writeSamples(environment, order, overwrite);
  }

  /**
   * Reads every seed of an environment to its end, without the database.
   *
   * @throws ProjectException with all that is wrong with the files
   */
  public void examineSeeds(Optional<String> environment) {
    new SeedService(context).examine(context.environments().read(environment));
  }

  /**
   * Writes rows of an environment back to their seed files: to all of them or none. Rows that did
   * not change keep their text.
   *
   * @param approval asked once with the files that change
   * @return what changes in each file, in the order of the tables
   */
  public List<PulledSeed> pull(
      Optional<String> environment, PullOptions options, PullApproval approval) {
    return new SeedService(context).pull(environment, options, approval);
  }

  /**
   * A fresh start: empties a disposable environment, applies everything, and seeds.
   *
   * @param approval asked once with what would be lost
   */
  public RebuildResult rebuild(
      Optional<String> environment,
      RebuildOptions options,
      RebuildApproval approval,
      RunListener listener,
      SeedListener seedListener) {
    return new RebuildService(context)
        .rebuild(environment, options, approval, listener, seedListener);
  }

  /**
   * Deletes the file of a rung that no environment has.
   *
   * @param confirmed environments that cannot be reached and of which a person says that they do
   *     not have the rung
   * @throws RefusedException if one has it, or cannot be reached and is not confirmed
   */
  public RungRemoval removeRung(long number, Set<String> confirmed) {
    return new RungRemovalService(context).remove(number, confirmed);
  }
}

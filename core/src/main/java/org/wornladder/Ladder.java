package org.wornladder;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.wornladder.climb.ApplyOptions;
import org.wornladder.climb.Approval;
import org.wornladder.climb.Listener;
import org.wornladder.climb.Outcome;
import org.wornladder.climb.Plan;
import org.wornladder.climb.RollbackOptions;
import org.wornladder.climb.Settlement;
import org.wornladder.engine.Access;
import org.wornladder.journal.History;
import org.wornladder.journal.Journal.Depth;
import org.wornladder.project.Environment;
import org.wornladder.project.EnvironmentReader;
import org.wornladder.project.Problem;
import org.wornladder.project.Project;
import org.wornladder.project.ProjectReader;
import org.wornladder.schema.Schema;
import org.wornladder.seed.Pulled;
import org.wornladder.seed.SeedApproval;
import org.wornladder.seed.SeedListener;
import org.wornladder.seed.SeedOptions;
import org.wornladder.seed.SeedOutcome;
import org.wornladder.survey.AdoptOptions;
import org.wornladder.survey.Adoption;
import org.wornladder.survey.Against;
import org.wornladder.survey.Comparison;
import org.wornladder.survey.DatabaseReport;
import org.wornladder.survey.Drift;
import org.wornladder.survey.Examination;
import org.wornladder.survey.Examiner;
import org.wornladder.survey.JournalReport;
import org.wornladder.survey.Mending;
import org.wornladder.survey.Official;
import org.wornladder.survey.Status;
import org.wornladder.survey.StatusReader;
import org.wornladder.survey.StructureAsSql;
import org.wornladder.survey.TableReader;

/**
 * One project and its environments. Every call reads the files that were read when it was opened,
 * opens its own session, and closes it.
 *
 * <p>An environment is named by its name; the empty name means the default one. All calls throw the
 * leaves of {@link org.wornladder.fault.LadderException} and nothing else that a user can cause.
 */
public final class Ladder {
  private final Project project;
  private final LadderSettings settings;
  private final EnvironmentReader environments;

  private Ladder(Project project, LadderSettings settings) {
    this.project = project;
    this.settings = settings;
    environments = new EnvironmentReader(project.root(), project.settings(), settings.variables());
  }

  /**
   * Opens the project in a folder.
   *
   * @throws org.wornladder.project.ProjectException with every error in its files
   */
  public static Ladder open(Path root, LadderSettings settings) {
    return new Ladder(ProjectReader.read(root), settings);
  }

  /** A project that was read already. */
  static Ladder of(Project project, LadderSettings settings) {
    return new Ladder(project, settings);
  }

  /**
   * Writes into an environment's journal that a rung which is in place there has another number.
   */
  void renumber(String environment, long number, long newNumber, Listener listener) {
    in(
        environment,
        Access.WRITE,
        site ->
            site.locked(
                settings,
                listener::waiting,
                same -> {
                  new Settlement(project, same.environment(), same.session(), same.journal())
                      .renumber(number, newNumber, same.provenHistory());
                  return same;
                }));
  }

  public Project project() {
    return project;
  }

  /** What apply would do. */
  public Plan preview(String environment, ApplyOptions options) {
    return in(
        environment,
        Access.READ,
        site -> changing().applyPlan(site, site.provenHistory(), options));
  }

  /**
   * Runs the waiting rungs and the standing scripts.
   *
   * @param approval asked once with the plan, if there is anything to do
   */
  public Outcome apply(
      String environment, ApplyOptions options, Approval approval, Listener listener) {
    return in(
        environment, Access.WRITE, site -> changing().apply(site, options, approval, listener));
  }

  /** Runs ways down. */
  public Outcome rollback(
      String environment, RollbackOptions options, Approval approval, Listener listener) {
    return in(
        environment, Access.WRITE, site -> changing().rollback(site, options, approval, listener));
  }

  /** Puts a stuck or worn rung right, on the record. */
  public void settle(
      String environment,
      long number,
      Settlement.Verdict verdict,
      String because,
      Approval approval,
      Listener listener) {
    in(
        environment,
        Access.WRITE,
        site ->
            site.locked(
                settings,
                listener::waiting,
                same -> {
                  History history = same.provenHistory();
                  approval.check(changing().basis(same, history).empty(), same.environment());
                  new Settlement(project, same.environment(), same.session(), same.journal())
                      .settle(number, verdict, because, history);
                  return same;
                }));
  }

  /** The ladder in one environment, rung by rung. */
  public Status status(String environment) {
    return in(
        environment,
        Access.READ,
        site -> statusReader(site, site.journal().read(Depth.GLANCE)).read(site.session()));
  }

  /** The journal of one environment, its chain proven. */
  public JournalReport history(String environment) {
    return in(
        environment,
        Access.READ,
        site ->
            new JournalReport(
                site.environment().name(),
                site.session().address(),
                site.session().isThere(),
                site.journal().read(Depth.WHOLE)));
  }

  /** What stands in one environment. */
  public DatabaseReport show(String environment) {
    return in(
        environment,
        Access.READ,
        site -> {
          Schema schema = site.structure();
          return new DatabaseReport(
              site.environment().name(),
              site.session().address(),
              site.session().isThere(),
              schema,
              site.session().rowCounts(schema));
        });
  }

  /** One table with its first rows. */
  public DatabaseReport.OfTable showTable(String environment, String table, int rows) {
    return in(
        environment,
        Access.READ,
        site ->
            new TableReader(site.session(), site.engine(), site.environment())
                .read(site.structure(), table, rows));
  }

  /** Examines the files without a database. */
  public static Examination check(Path root) {
    return Examiner.files(ProjectReader.examine(root));
  }

  /** Lays the files beside one environment's journal. */
  public Examination.Against checkAgainst(String environment) {
    return in(
        environment,
        Access.READ,
        site -> {
          History history = site.journal().read(Depth.WHOLE);
          Status status = statusReader(site, history).read(site.session());
          // Where rungs wait, seeds may be ahead of the tables.
          List<Problem> misfits =
              status.waiting() > 0 ? List.of() : seeding().misfits(site, history);
          return Examiner.against(status, history, project, misfits);
        });
  }

  private StatusReader statusReader(Site site, History history) {
    return new StatusReader(project, site.environment(), site.engine(), history);
  }

  /**
   * Whether a database is what its history says, or what the files make. Needs only the right to
   * read, but for the scratch database in which files are run.
   */
  public Drift drift(String environment, Against against) {
    return structures().drift(environment, against, false);
  }

  /** The same with owners and grants. */
  public Drift driftWithRights(String environment, Against against) {
    return structures().drift(environment, against, true);
  }

  /** What would bring a database back to what it is held against. */
  public Mending mending(String environment, Against against) {
    return structures().mending(environment, against);
  }

  /**
   * Makes what was found in a database official: writes a rung that makes it elsewhere, and marks
   * it as in place here.
   */
  public Official makeOfficial(
      String environment, String words, Approval approval, Listener listener) {
    return structures().makeOfficial(environment, words, approval, listener);
  }

  /** Takes a database that exists under management. */
  public Adoption adopt(
      String environment, AdoptOptions options, Approval approval, Listener listener) {
    return new Adopting(project, settings, this::in, structures())
        .adopt(environment, options, approval, listener);
  }

  /**
   * Brings rows to what the seeds say, all of them in one transaction.
   *
   * @param approval asked once with what would be done, if there is anything to do
   */
  public SeedOutcome seed(
      String environment, SeedOptions options, SeedApproval approval, SeedListener listener) {
    return seeding().seed(environment, options, approval, listener);
  }

  /**
   * A fresh start: empties a disposable environment, applies everything, and seeds.
   *
   * @param approval asked once with what would be lost
   */
  public Rebuilt rebuild(
      String environment,
      RebuildOptions options,
      RebuildApproval approval,
      Listener listener,
      SeedListener seedListener) {
    return new Rebuilding(settings, this::in, changing(), seeding())
        .rebuild(environment, options, approval, listener, seedListener);
  }

  /** Writes rows that stand in an environment back to their seed files. */
  public List<Pulled> pull(String environment, List<String> tables) {
    return seeding().pull(environment, tables);
  }

  private Seeding seeding() {
    return new Seeding(project, settings, this::in);
  }

  /**
   * Two structures beside each other.
   *
   * @param left {@code env:NAME} for what stands there, {@code expected:NAME} for what its history
   *     says should, {@code rungs} or {@code schema} for what the files make
   */
  public Comparison compare(String left, String right) {
    return structures().compare(left, right, false);
  }

  /** The same with owners and grants, where both are of one engine. */
  public Comparison compareWithRights(String left, String right) {
    return structures().compare(left, right, true);
  }

  /** What stands in an environment as statements, in an order that runs. */
  public StructureAsSql ddl(String environment, Optional<String> table) {
    return structures().ddl(environment, table);
  }

  private Changing changing() {
    return new Changing(project, settings, this::in);
  }

  private Structures structures() {
    return new Structures(project, settings, environments, this::in);
  }

  private <T> T in(String name, Access access, Site.Work<T> work) {
    Environment environment = environments.read(name);
    return Site.visit(environment, project, settings, access, work);
  }
}

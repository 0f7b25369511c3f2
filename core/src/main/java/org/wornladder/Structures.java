package org.wornladder;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.wornladder.climb.Approval;
import org.wornladder.climb.Listener;
import org.wornladder.climb.PlanBasis;
import org.wornladder.climb.RefusedException;
import org.wornladder.climb.Settlement;
import org.wornladder.diff.Accepted;
import org.wornladder.diff.ChangeScript;
import org.wornladder.diff.CommonSubset;
import org.wornladder.diff.CreationScript;
import org.wornladder.diff.Difference;
import org.wornladder.diff.Differences;
import org.wornladder.diff.Ignored;
import org.wornladder.diff.Sight;
import org.wornladder.engine.Ability;
import org.wornladder.engine.Access;
import org.wornladder.engine.Engines;
import org.wornladder.fault.LadderException;
import org.wornladder.journal.History;
import org.wornladder.journal.Journal.Depth;
import org.wornladder.project.Environment;
import org.wornladder.project.EnvironmentReader;
import org.wornladder.project.Project;
import org.wornladder.project.ProjectException;
import org.wornladder.project.ProjectReader;
import org.wornladder.project.ProjectWriter;
import org.wornladder.project.Rung;
import org.wornladder.project.RungDraft;
import org.wornladder.schema.Element;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Snapshot;
import org.wornladder.sql.Place;
import org.wornladder.survey.Against;
import org.wornladder.survey.Comparison;
import org.wornladder.survey.Drift;
import org.wornladder.survey.Examination.Finding;
import org.wornladder.survey.Examiner;
import org.wornladder.survey.Mending;
import org.wornladder.survey.Official;
import org.wornladder.survey.Status;
import org.wornladder.survey.StatusReader;
import org.wornladder.survey.StructureAsSql;

/** The structures that stand, are expected, or are made by files, laid beside each other. */
record Structures(
    Project project, LadderSettings settings, EnvironmentReader environments, Visit visit) {
  private static final String MADE_OFFICIAL = "found in the database, and made official";

  private ScratchSite scratch() {
    return new ScratchSite(project, settings, environments);
  }

  /** What an environment's structure is held against. */
  private Snapshot against(Against against, Environment environment, ExpectedState expectation) {
    return switch (against) {
      case EXPECTED -> expectation.expected();
      case RUNGS -> scratch().ofRungs(environment, OptionalLong.empty());
      case SCHEMA -> scratch().ofSchema(environment);
    };
  }

  /** What a structure differs in from the one that the ladder up to a rung builds. */
  List<Difference> fromFirstRung(Environment environment, Rung rung, Snapshot live) {
    Snapshot built = scratch().ofRungs(environment, OptionalLong.of(rung.number()));
    return counting(Differences.between(built, live));
  }

  private List<Difference> counting(List<Difference> all) {
    return new Ignored(project.settings().ignore()).without(all);
  }

  private Sight sight(Snapshot before, Snapshot after) {
    return Sight.of(counting(Differences.between(before, after)), before, after);
  }

  private static List<Difference> all(Snapshot before, Snapshot after, boolean rights) {
    return rights ? Differences.withRights(before, after) : Differences.between(before, after);
  }

  Drift drift(String environment, Against against, boolean rights) {
    return visit.in(
        environment,
        Access.READ,
        site -> {
          Optional<Glance> glance = glance(site, against);
          Optional<Boolean> same = glance.flatMap(Glance::same);
          if (same.equals(Optional.of(true))) {
            return glance.get().beside().drift(against, true, Sight.NOTHING, 0);
          }
          History history =
              glance.isPresent()
                  ? glance.get().beside().history()
                  : site.journal().read(Depth.WHOLE);
          ExpectedState expectation = ExpectedState.of(site, history);
          Snapshot should = against(against, site.environment(), expectation);
          List<Difference> all = all(should, expectation.live(), rights);
          List<Difference> counting = counting(all);
          Sight sight = Sight.of(counting, should, expectation.live());
          Beside beside = glance.isPresent() ? glance.get().beside() : beside(site, history);
          return beside.drift(
              against,
              against != Against.EXPECTED || expectation.known(),
              sight,
              all.size() - counting.size());
        });
  }

  /**
   * What there is to say before the structure is read.
   *
   * @param same whether all stands as the last run left it, and that was as expected; empty if the
   *     database cannot tell
   */
  private record Glance(Beside beside, Optional<Boolean> same) {}

  /** Asks the database itself; empty where its fingerprint would not tell, or it has none. */
  private Optional<Glance> glance(Site site, Against against) throws SQLException {
    if (against != Against.EXPECTED
        || !site.engine().abilities().contains(Ability.STRUCTURE_FINGERPRINT)) {
      return Optional.empty();
    }
    History history = site.journal().read(Depth.WHOLE);
    Optional<String> kept = site.snapshots().last().answers();
    Optional<String> answers = kept.isPresent() ? site.answers() : kept;
    return Optional.of(
        new Glance(beside(site, history), kept.flatMap(one -> answers.map(one::equals))));
  }

  /** What is looked at beside the structure. */
  private record Beside(
      Site site, History history, Status status, List<Finding> files, Seeding seeding) {
    Drift drift(Against against, boolean known, Sight sight, int ignored) throws SQLException {
      return new Drift(
          site.environment().name(),
          site.engine().name(),
          site.session().address(),
          site.session().isThere(),
          against,
          known,
          sight.told(),
          ignored,
          Sight.names(sight.hidden()),
          files,
          history.broken(),
          history.entries().size(),
          seeding.drift(site, history, status.waiting() > 0));
    }
  }

  private Beside beside(Site site, History history) {
    Status status =
        new StatusReader(project, site.environment(), site.engine(), history).read(site.session());
    return new Beside(
        site,
        history,
        status,
        Examiner.ofRungs(status, project),
        new Seeding(project, settings, visit));
  }

  Mending mending(String environment, Against against) {
    return visit.in(
        environment,
        Access.READ,
        site -> {
          History history = site.journal().read(Depth.GLANCE);
          if (against == Against.EXPECTED) {
            refuseUnrecorded(site, history);
          }
          ExpectedState expectation = ExpectedState.of(site, history);
          Snapshot should = against(against, site.environment(), expectation);
          Sight sight = sight(expectation.live(), should);
          ChangeScript script =
              ChangeScript.of(sight.told(), expectation.live(), site.session().ddl());
          return new Mending(
              site.environment().name(), script.statements(), script.leftOut(), sight.hidden());
        });
  }

  /** Where nothing is on record nothing is expected, and to bring that back would drop all. */
  private static void refuseUnrecorded(Site site, History history) {
    if (history.entries().isEmpty()) {
      String name = site.environment().name();
      throw RefusedException.of(
          "nothing is on record yet on " + name + ", so there is nothing to hold it against",
          "environment " + name + ", " + site.session().address(),
          "ladder adopt " + name + " takes what stands there under management");
    }
  }

  Official makeOfficial(String environment, String words, Approval approval, Listener listener) {
    return visit.in(
        environment,
        Access.WRITE,
        site ->
            site.locked(settings, listener::waiting, same -> makeOfficial(same, words, approval)));
  }

  private Official makeOfficial(Site site, String words, Approval approval) throws SQLException {
    History history = site.provenHistory();
    refuseUnrecorded(site, history);
    ExpectedState expectation = ExpectedState.withCatalogFingerprint(site, history);
    Sight sight = sight(expectation.expected(), expectation.live());
    List<Difference> found = sight.told();
    // Owners and grants are an environment's own, and no part of a rung.
    ChangeScript up =
        ChangeScript.of(found, expectation.expected().withoutRights(), site.session().ddl());
    String name = site.environment().name();
    if (up.written().isEmpty()) {
      throw RefusedException.of(
          found.isEmpty()
              ? name + " is what its history says: there is nothing to make official"
              : "none of the differences can be written as a rung",
          "environment " + name,
          found.isEmpty() ? "" : "ladder drift " + name + " shows them; write the rung by hand");
    }
    approval.check(
        new PlanBasis(project, site.environment(), site.engine(), site.session(), history).empty(),
        site.environment());
    ChangeScript down =
        ChangeScript.of(
            reversed(up.written()), expectation.live().withoutRights(), site.session().ddl());
    RungDraft draft =
        new RungDraft(
            RungDraft.lines(up.statements()), RungDraft.lines(down.statements()), Optional.empty());
    String file = ProjectWriter.rung(project, words, draft, settings.timestamp());
    record(site, rung(file));
    expectation.save(Accepted.in(expectation.expected(), up.written()));
    return new Official(
        name, file, up.written(), up.leftOut(), sight.hidden(), reversed(down.leftOut()));
  }

  /** Marks a rung that was just written; its file goes again if that is not to be. */
  private void record(Site site, Rung rung) throws SQLException {
    try {
      new Settlement(project, site.environment(), site.session(), site.journal())
          .adopt(rung, MADE_OFFICIAL);
    } catch (SQLException | LadderException e) {
      if (!mayBeRecorded(site, rung)) {
        ProjectWriter.delete(project, rung);
      }
      throw e;
    }
  }

  /** Whether a rung is on record, for all that can be known. */
  private static boolean mayBeRecorded(Site site, Rung rung) {
    try {
      // What failed may have left a transaction in which nothing is answered any more.
      site.session().rollback();
      return site.journal().read(Depth.GLANCE).rungs().containsKey(rung.number());
    } catch (SQLException | LadderException e) {
      return true;
    }
  }

  /** A rung that was just written. */
  private Rung rung(String file) {
    return ProjectReader.read(project.root()).rungs().stream()
        .filter(rung -> rung.file().equals(file))
        .findFirst()
        .orElseThrow();
  }

  private static List<Difference> reversed(List<Difference> differences) {
    List<Difference> reversed = new ArrayList<>();
    for (Difference difference : differences) {
      reversed.add(new Difference(difference.table(), difference.after(), difference.before()));
    }
    Collections.reverse(reversed);
    return reversed;
  }

  Comparison compare(String left, String right, boolean rights) {
    String other = environmentIn(left).or(() -> environmentIn(right)).orElse("");
    Side one = side(left, other);
    Side two = side(right, other);
    boolean common = !one.engine().equals(two.engine());
    Snapshot before = common ? CommonSubset.of(one.structure()) : one.structure();
    Snapshot after = common ? CommonSubset.of(two.structure()) : two.structure();
    List<Difference> differences = counting(all(before, after, rights && !common));
    Sight sight = Sight.of(differences, before, after);
    return new Comparison(left, right, common, sight.told(), Sight.names(sight.hidden()));
  }

  private record Side(String engine, Snapshot structure) {}

  private static Optional<String> environmentIn(String named) {
    int colon = named.indexOf(':');
    return colon < 0 ? Optional.empty() : Optional.of(named.substring(colon + 1));
  }

  /**
   * @param other the environment for which files are run
   */
  private Side side(String named, String other) {
    return switch (named) {
      case "rungs" -> ofFiles(other, true);
      case "schema" -> ofFiles(other, false);
      default -> ofEnvironment(named);
    };
  }

  private Side ofFiles(String other, boolean rungs) {
    Environment environment = environments.read(other);
    return new Side(
        Engines.of(environment).name(),
        rungs
            ? scratch().ofRungs(environment, OptionalLong.empty())
            : scratch().ofSchema(environment));
  }

  private Side ofEnvironment(String named) {
    String kind = named.substring(0, Math.max(0, named.indexOf(':')));
    if (!kind.equals("env") && !kind.equals("expected")) {
      throw ProjectException.of(
          Place.of(named),
          "compare takes env:NAME, expected:NAME, rungs or schema",
          "for example ladder compare env:"
              + project.settings().defaultEnvironment()
              + " env:live");
    }
    return visit.in(
        environmentIn(named).orElseThrow(),
        Access.READ,
        site -> {
          ExpectedState expectation = ExpectedState.of(site, site.journal().read(Depth.GLANCE));
          return new Side(
              site.engine().name(),
              kind.equals("env") ? expectation.live() : expectation.expected());
        });
  }

  StructureAsSql ddl(String environment, Optional<String> table) {
    return visit.in(
        environment,
        Access.READ,
        site -> {
          Snapshot there = site.structure().snapshot();
          List<Element> elements = there.elements();
          List<Element> wanted =
              table.isEmpty() ? elements : List.of(table(elements, table.get(), site));
          return new StructureAsSql(
              CreationScript.of(wanted, site.session().ddl()),
              table.isEmpty() ? there.unseenSorts() : List.of());
        });
  }

  private static Element table(List<Element> elements, String name, Site site) {
    return elements.stream()
        .filter(element -> element.kind() == Kind.TABLE && element.name().equalsIgnoreCase(name))
        .findFirst()
        .orElseThrow(
            () ->
                ProjectException.of(
                    Place.of("environment " + site.environment().name()),
                    "there is no table " + name,
                    "ladder show " + site.environment().name() + " lists them"));
  }
}

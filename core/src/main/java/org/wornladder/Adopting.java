package org.wornladder;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.climb.Approval;
import org.wornladder.climb.Listener;
import org.wornladder.climb.PlanBasis;
import org.wornladder.climb.RefusedException;
import org.wornladder.climb.Settlement;
import org.wornladder.diff.CreationScript;
import org.wornladder.diff.Ddl;
import org.wornladder.diff.Difference;
import org.wornladder.diff.Differences;
import org.wornladder.diff.Ignored;
import org.wornladder.diff.SqlScript;
import org.wornladder.engine.Access;
import org.wornladder.journal.History;
import org.wornladder.project.IgnoreList;
import org.wornladder.project.Project;
import org.wornladder.project.ProjectReader;
import org.wornladder.project.ProjectWriter;
import org.wornladder.project.Rung;
import org.wornladder.project.RungDraft;
import org.wornladder.project.SchemaWriter;
import org.wornladder.project.SchemaWriter.Declared;
import org.wornladder.project.Seed;
import org.wornladder.project.SeedWriter;
import org.wornladder.schema.Element;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Snapshot;
import org.wornladder.seed.Pull;
import org.wornladder.sql.Place;
import org.wornladder.survey.AdoptOptions;
import org.wornladder.survey.Adoption;
import org.wornladder.survey.DatabaseReport;
import org.wornladder.survey.TableReader;

/** Takes a database that exists under management: from here on, everything is on record. */
record Adopting(Project project, LadderSettings settings, Visit visit, Structures structures) {
  private static final int MOST_ROWS = 100_000;
  private static final String WORDS = "adopted structure";
  private static final String REASON =
      "it stood before the ladder did, and nobody drops a live database by rolling back";
  private static final String NOTE = "it stood there before the ladder did";
  private static final String MARK = "-- The fingerprint of this structure: ";
  private static final Pattern MARKED = Pattern.compile(Pattern.quote(MARK) + "([0-9a-f]{64})");

  Adoption adopt(String environment, AdoptOptions options, Approval approval, Listener listener) {
    return visit.in(
        environment,
        Access.WRITE,
        site -> site.locked(settings, listener::waiting, same -> adopt(same, options, approval)));
  }

  private Adoption adopt(Site site, AdoptOptions options, Approval approval) throws SQLException {
    History history = site.provenHistory();
    String name = site.environment().name();
    if (!history.rungs().isEmpty()) {
      throw RefusedException.of(
          name + " is on record already: its journal has rungs",
          "environment " + name,
          "ladder status "
              + name
              + " shows its rungs; ladder drift "
              + name
              + " what is not of them");
    }
    Optional<Rung> adopted = project.rungs().stream().filter(Adopting::isAdopted).findFirst();
    if (adopted.isEmpty() && !project.rungs().isEmpty()) {
      throw RefusedException.of(
          "this project has rungs already, and none of them was adopted",
          project.rungs().get(0).file(),
          "adopt into a project without rungs; ladder init DIR makes one");
    }
    approval.check(
        new PlanBasis(project, site.environment(), site.engine(), site.session(), history).empty(),
        site.environment());
    ExpectedState expectation = ExpectedState.withCatalogFingerprint(site, history);
    List<Element> taken = taken(expectation.live(), options);
    return adopted.isPresent()
        ? again(site, adopted.get(), taken, expectation)
        : first(site, options, taken, expectation);
  }

  private static boolean isAdopted(Rung rung) {
    return MARKED.matcher(rung.script().source()).find();
  }

  /** What the options and the project's own list leave of what stands there. */
  private List<Element> taken(Snapshot live, AdoptOptions options) {
    List<String> left = new ArrayList<>(project.settings().ignore());
    left.addAll(options.except());
    List<Difference> all = Differences.between(Snapshot.EMPTY, live);
    List<Difference> kept = new Ignored(left).without(all);
    if (!options.only().isEmpty()) {
      kept = new Ignored(options.only()).ignored(kept);
    }
    return kept.stream().map(difference -> difference.after().orElseThrow()).toList();
  }

  private Adoption first(
      Site site, AdoptOptions options, List<Element> taken, ExpectedState expectation)
      throws SQLException {
    Ddl ddl = site.session().ddl();
    CreationScript script = CreationScript.of(taken, ddl);
    if (script.statements().isEmpty()) {
      throw RefusedException.of(
          "nothing stands there that could be adopted",
          "environment " + site.environment().name() + ", " + site.session().address(),
          "see that the url is the right one, and what --only and --except leave");
    }
    RungDraft draft = draft(taken, script);
    draft.refuseTooLarge("leave objects out with --except; nothing was written");
    List<String> rows = new ArrayList<>();
    Schema schema = site.structure();
    for (String table : options.rows()) {
      rows.add(rows(site, schema, table));
    }
    for (String pattern : options.except()) {
      IgnoreList.add(project.root(), pattern);
    }
    List<String> files = new ArrayList<>(SchemaWriter.write(project.root(), declared(taken, ddl)));
    files.addAll(rows);
    String rung = ProjectWriter.rung(project, WORDS, draft, settings.timestamp());
    mark(site, ProjectReader.read(project.root()).rungs().get(0), expectation);
    return new Adoption(
        site.environment().name(),
        rung,
        files,
        script.leftOut(),
        taken.size(),
        expectation.live().unseenSorts(),
        List.of());
  }

  private static RungDraft draft(List<Element> taken, CreationScript script) {
    List<String> up = new ArrayList<>();
    up.add(MARK + new Snapshot(taken).meaningFingerprint());
    up.addAll(RungDraft.lines(script.statements()));
    return new RungDraft(up, List.of(), Optional.of(REASON));
  }

  /** Writes the rows of a table as a seed; returns its file. */
  private String rows(Site site, Schema schema, String table) throws SQLException {
    DatabaseReport.OfTable report =
        new TableReader(site.session(), site.engine(), site.environment()).read(schema, table, 0);
    String name = report.table().name();
    if (report.rowCount() > MOST_ROWS) {
      throw RefusedException.of(
          table + " has " + report.rowCount() + " rows: that is no reference data",
          "environment " + site.environment().name(),
          "--rows takes tables of at most " + MOST_ROWS + " rows");
    }
    String file = SeedWriter.csvFile(name);
    Place place = Place.of(ProjectReader.SETTINGS);
    Seed seed = new Seed(place, Seed.Form.CSV, name, file, List.of(), true, false, List.of());
    new Pull(project.root(), site.environment().name(), site.session(), schema).write(seed);
    return file;
  }

  private static List<Declared> declared(List<Element> elements, Ddl ddl) {
    List<Declared> declared = new ArrayList<>();
    for (Element element : elements) {
      Ddl.Creation creation = ddl.create(element.readable());
      if (!creation.make().isEmpty()) {
        String folder = element.kind().plural().replace(' ', '-');
        String name = ddl.names(element).stream().findFirst().orElse(element.name());
        declared.add(new Declared(folder, name, SqlScript.of(creation.all())));
      }
    }
    return declared;
  }

  /** Another environment: it is marked if it is the same. */
  private Adoption again(Site site, Rung rung, List<Element> taken, ExpectedState expectation)
      throws SQLException {
    Matcher marked = MARKED.matcher(rung.script().source());
    String name = site.environment().name();
    boolean same =
        marked.find() && marked.group(1).equals(new Snapshot(taken).meaningFingerprint());
    List<Difference> differences =
        same ? List.of() : structures.fromFirstRung(site.environment(), rung, new Snapshot(taken));
    if (differences.isEmpty()) {
      mark(site, rung, expectation);
    }
    return new Adoption(
        name,
        rung.file(),
        List.of(),
        List.of(),
        taken.size(),
        expectation.live().unseenSorts(),
        differences);
  }

  private void mark(Site site, Rung rung, ExpectedState expectation) throws SQLException {
    new Settlement(project, site.environment(), site.session(), site.journal()).adopt(rung, NOTE);
    expectation.save(expectation.live());
  }
}

package org.wornladder;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.climb.ApplyOptions;
import org.wornladder.climb.Listener;
import org.wornladder.climb.Outcome;
import org.wornladder.climb.RefusedException;
import org.wornladder.engine.Access;
import org.wornladder.engine.ScratchDatabase;
import org.wornladder.journal.Event;
import org.wornladder.journal.History;
import org.wornladder.journal.Journal.Depth;
import org.wornladder.journal.Note;
import org.wornladder.journal.Subject;
import org.wornladder.schema.Element;
import org.wornladder.schema.Kind;
import org.wornladder.seed.SeedListener;
import org.wornladder.seed.SeedOptions;
import org.wornladder.seed.SeedOutcome;

/** A fresh start: a disposable environment is emptied, everything is applied, and seeded. */
record Rebuilding(LadderSettings settings, Visit visit, Changing changing, Seeding seeding) {
  Rebuilt rebuild(
      String environment,
      RebuildOptions options,
      RebuildApproval approval,
      Listener listener,
      SeedListener seedListener) {
    return visit.in(
        environment,
        Access.WRITE,
        site -> {
          refuseKept(site);
          return site.locked(
              settings,
              listener::waiting,
              same -> rebuild(same, options, approval, listener, seedListener));
        });
  }

  private static void refuseKept(Site site) {
    String name = site.environment().name();
    if (site.environment().settings().guarded()) {
      throw RefusedException.of(
          name + " is guarded: it is never emptied", "environment " + name, "");
    }
    if (!site.environment().settings().disposable()) {
      throw RefusedException.of(
          name + " is not disposable, so it is not emptied",
          "environment " + name,
          "write disposable: true under " + name + " in ladder.yaml, if all in it may be lost");
    }
  }

  private Rebuilt rebuild(
      Site site,
      RebuildOptions options,
      RebuildApproval approval,
      Listener listener,
      SeedListener seedListener)
      throws SQLException {
    History history = site.journal().read(Depth.GLANCE);
    RebuildLoss loss = loss(site, history);
    ApplyOptions apply = new ApplyOptions(options.to(), false, Optional.empty());
    // What cannot be built is told while everything still stands.
    changing.applyPlan(site, History.of(List.of(), Optional.empty()), apply);
    refuseOutside(site);
    approval.check(loss);
    empty(site, loss);
    Outcome outcome = changing.applyLocked(site, apply, (plan, environment) -> {}, listener);
    boolean seeds = options.seed() && options.to().isEmpty() && !outcome.stopped();
    Optional<SeedOutcome> seeded =
        seeds
            ? Optional.of(
                seeding.seedLocked(
                    site, SeedOptions.ALL, (planned, environment) -> {}, seedListener))
            : Optional.empty();
    return new Rebuilt(loss, outcome, seeded);
  }

  private static RebuildLoss loss(Site site, History history) throws SQLException {
    Map<Kind, Long> objects = new EnumMap<>(Kind.class);
    for (Element element : site.structure().snapshot().elements()) {
      if (!element.kind().isRight() && element.kind() != Kind.SCHEMA) {
        objects.merge(element.kind(), 1L, Long::sum);
      }
    }
    String address = site.session().address();
    return new RebuildLoss(
        site.environment().name(),
        address.substring(address.lastIndexOf('/') + 1),
        objects,
        !history.entries().isEmpty(),
        site.journal().others());
  }

  private static void refuseOutside(Site site) throws SQLException {
    List<String> outside = site.engine().outsideDependents(site.session());
    if (!outside.isEmpty()) {
      throw RefusedException.of(
          "what lies outside of the managed schemas stands on what is in them: "
              + String.join(", ", outside),
          "environment " + site.environment().name(),
          "drop it, or name its schema under schemas: in ladder.yaml");
    }
  }

  private static void empty(Site site, RebuildLoss loss) throws SQLException {
    List<String> last = new ArrayList<>(site.journal().tables());
    last.add(ScratchDatabase.PROOF);
    site.engine().empty(site.session(), last);
    site.journal().read(Depth.WHOLE);
    site.journal().create();
    site.session().begin();
    site.journal()
        .append(Event.EMPTIED, Subject.standing("rebuild", "", "", ""), Note.of(loss.text()));
    site.session().commit();
  }
}

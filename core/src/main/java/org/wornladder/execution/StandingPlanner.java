package org.wornladder.execution;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.wornladder.RefusedException;
import org.wornladder.engine.Engine;
import org.wornladder.execution.Step.StandingAction;
import org.wornladder.journal.Entry;
import org.wornladder.journal.EntrySubject;
import org.wornladder.journal.Event;
import org.wornladder.journal.History;
import org.wornladder.project.Direction;
import org.wornladder.project.Environment;
import org.wornladder.project.Project;
import org.wornladder.project.Script;
import org.wornladder.project.ScriptParser;
import org.wornladder.project.StandingScript;

/** Plans what happens to standing scripts: around a rung that lifts them, and after the rungs. */
final class StandingPlanner {
  /** In the place of a fingerprint: a run began and did not end. */
  private static final String HALF_WAY = "";

  private final Project project;
  private final Environment environment;
  private final ScriptPreparation preparation;
  private final Engine engine;

  /** What is in the database as the plan goes on, by name: the fingerprint of the last run. */
  private final Map<String, String> inPlace = new LinkedHashMap<>();

  private final Map<String, String> texts = new LinkedHashMap<>();

  StandingPlanner(PlanningContext basis) {
    this.project = basis.project();
    this.environment = basis.environment();
    this.engine = basis.engine();
    this.preparation = basis.preparation();
    for (Entry entry : basis.history().standing().values()) {
      boolean ended = entry.event() == Event.STANDING_RUN;
      inPlace.put(entry.subject().name(), ended ? entry.subject().upFingerprint() : HALF_WAY);
      texts.put(entry.subject().name(), entry.subject().script());
    }
  }

  /**
   * The scripts in place that a rung's {@code lifts} names, and those that need one of them; in the
   * order in which they ran.
   */
  List<String> lifted(List<String> names) {
    Set<String> lifted = new LinkedHashSet<>(names);
    boolean more = !names.isEmpty();
    while (more) {
      more = false;
      for (String name : inPlace.keySet()) {
        List<String> needs = parse(name, texts.get(name)).header().needs();
        if (needs.stream().anyMatch(lifted::contains)) {
          more |= lifted.add(name);
        }
      }
    }
    return inPlace.keySet().stream().filter(lifted::contains).toList();
  }

  /**
   * What a rung's {@code lifts} takes down: those of the scripts named that are in place, and those
   * that need one of them, the newest first.
   *
   * @throws RefusedException if one has no way down
   */
  List<StandingAction> lift(List<String> names, String rung) {
    List<StandingAction> actions = new ArrayList<>();
    for (String name : lifted(names)) {
      StandingAction action = down(name, "lifted by " + rung, false);
      if (action.statements().isEmpty()) {
        throw RefusedException.of(
            rung
                + (names.contains(name) ? " lifts " : " lifts what is needed by ")
                + name
                + ", which has no way down",
            "standing/" + name + ".sql",
            "write a --| down section that drops what it makes, and apply that first");
      }
      actions.add(0, action);
    }
    return actions;
  }

  /** Restores what was lifted, as the files now say it. */
  List<StandingAction> putBack(List<String> names, boolean certain) {
    List<StandingAction> actions = new ArrayList<>();
    if (names.isEmpty()) {
      return actions;
    }
    for (StandingScript script : wanted()) {
      if (names.contains(script.name()) && inPlace.containsKey(script.name())) {
        StandingAction action = up(script, "put back");
        actions.add(action);
        if (certain) {
          // A rung with a condition may not lift it at all; then its change is still to come.
          inPlace.put(script.name(), action.subject().upFingerprint());
          texts.put(script.name(), script.script().source());
        }
      }
    }
    return actions;
  }

  /**
   * Takes down what ran after an entry, the newest first: it may depend on what is taken back next.
   * What has no way down stays.
   */
  Optional<Step.OfStanding> takeDownAfter(History history, long entryNumber, String reason) {
    List<StandingAction> actions = new ArrayList<>();
    for (Entry entry : history.standing().values()) {
      String name = entry.subject().name();
      if (entry.number() > entryNumber) {
        StandingAction action = down(name, reason, true);
        if (!action.statements().isEmpty()) {
          actions.add(0, action);
        }
      }
    }
    actions.forEach(action -> inPlace.remove(action.name()));
    return actions.isEmpty() ? Optional.empty() : Optional.of(new Step.OfStanding(actions));
  }

  /** Restores what was in place before an entry and is not now, as the journal has it. */
  Optional<Step.OfStanding> putBackAsBefore(History history, long entryNumber) {
    List<StandingAction> actions = new ArrayList<>();
    for (Entry entry : history.standingBefore(entryNumber)) {
      String name = entry.subject().name();
      if (!inPlace.containsKey(name) && entry.event() == Event.STANDING_RUN) {
        Script script = parse(name, entry.subject().script());
        actions.add(
            new StandingAction(
                name,
                Direction.UP,
                entry.subject(),
                preparation.statements(script, Direction.UP),
                "put back as it was before",
                true));
      }
    }
    return actions.isEmpty() ? Optional.empty() : Optional.of(new Step.OfStanding(actions));
  }

  /** Restores what a way down lifted, as it was. */
  List<StandingAction> putBackSame(List<StandingAction> lifted) {
    List<StandingAction> actions = new ArrayList<>();
    for (StandingAction down : lifted) {
      Script script = parse(down.name(), texts.get(down.name()));
      actions.add(
          0,
          new StandingAction(
              down.name(),
              Direction.UP,
              down.subject(),
              preparation.statements(script, Direction.UP),
              "put back",
              true));
    }
    return actions;
  }

  /** What happens after the rungs; empty if every script is as it should be. */
  Optional<Step.OfStanding> afterRungs() {
    List<StandingScript> wanted = wanted();
    Map<String, String> reasons = reasons(wanted);
    Set<String> gone = new LinkedHashSet<>(inPlace.keySet());
    wanted.forEach(script -> gone.remove(script.name()));
    List<StandingAction> actions = new ArrayList<>();
    for (StandingScript script : wanted) {
      if (reasons.containsKey(script.name()) && inPlace.containsKey(script.name())) {
        StandingAction down = down(script.name(), reasons.get(script.name()), false);
        if (!down.statements().isEmpty()) {
          // What needs others goes down before them.
          actions.add(0, down);
        }
      }
    }
    for (String name : gone) {
      actions.add(0, remove(name));
    }
    for (StandingScript script : wanted) {
      if (reasons.containsKey(script.name())) {
        actions.add(up(script, reasons.get(script.name())));
      }
    }
    return actions.isEmpty() ? Optional.empty() : Optional.of(new Step.OfStanding(actions));
  }

  /** Why each script runs: it is new, changed, always wanted, or needs one that runs again. */
  private Map<String, String> reasons(List<StandingScript> wanted) {
    Map<String, String> reasons = new LinkedHashMap<>();
    for (StandingScript script : wanted) {
      String name = script.name();
      if (!inPlace.containsKey(name)) {
        reasons.put(name, "new");
      } else if (inPlace.get(name).equals(HALF_WAY)) {
        reasons.put(name, "it stopped half way");
      } else if (!inPlace.get(name).equals(preparation.standingFingerprint(script.script()))) {
        reasons.put(name, "changed");
      } else if (script.script().header().always()) {
        reasons.put(name, "always");
      } else {
        for (String need : script.script().header().needs()) {
          if (reasons.containsKey(need)) {
            reasons.put(name, "needs " + need);
          }
        }
      }
    }
    return reasons;
  }

  private List<StandingScript> wanted() {
    List<StandingScript> wanted = new ArrayList<>();
    for (StandingScript script : project.standing()) {
      List<String> onlyIn = script.script().header().onlyIn();
      if (onlyIn.isEmpty() || onlyIn.contains(environment.name())) {
        wanted.add(script);
      }
    }
    return wanted;
  }

  private StandingAction up(StandingScript script, String reason) {
    EntrySubject subject =
        EntrySubject.standing(
            script.name(),
            preparation.standingFingerprint(script.script()),
            script.script().fingerprint(Direction.DOWN, engine.dialect()),
            script.script().source());
    List<org.wornladder.sql.Statement> statements =
        preparation.statements(script.script(), Direction.UP);
    return new StandingAction(script.name(), Direction.UP, subject, statements, reason, true);
  }

  private StandingAction down(String name, String reason, boolean recorded) {
    Script script = parse(name, texts.get(name));
    EntrySubject subject =
        EntrySubject.standing(
            name,
            inPlace.get(name),
            script.fingerprint(Direction.DOWN, engine.dialect()),
            texts.get(name));
    return new StandingAction(
        name,
        Direction.DOWN,
        subject,
        preparation.statements(script, Direction.DOWN),
        reason,
        recorded);
  }

  private StandingAction remove(String name) {
    StandingAction down = down(name, "its file is gone", true);
    boolean stays =
        down.statements().isEmpty() && !parse(name, texts.get(name)).hasWayDown(engine.name());
    return stays
        ? new StandingAction(
            name,
            Direction.DOWN,
            down.subject(),
            List.of(),
            "its file is gone, and it had no way down: what it made stays",
            true)
        : down;
  }

  private static Script parse(String name, String text) {
    return ScriptParser.parseJournalled("standing script " + name + " in the journal", text);
  }
}

package org.wornladder.service;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.wornladder.engine.Engine;
import org.wornladder.engine.UrlEngines;
import org.wornladder.project.EnvironmentSettings;
import org.wornladder.project.Problem;
import org.wornladder.project.Project;
import org.wornladder.project.Rung;
import org.wornladder.project.Script;
import org.wornladder.project.StandingScript;

/** The statements that are not examined, since it is not known how their engine reads them. */
final class UnexaminedScripts {
  private UnexaminedScripts() {}

  /** A note that some were not; empty if all were, or no variable that is not set is the reason. */
  static Optional<Problem> note(Project project, UrlEngines engines) {
    List<EnvironmentSettings> all = List.copyOf(project.settings().environments().values());
    Optional<EnvironmentSettings> open = all.stream().filter(engines::isOpen).findFirst();
    Set<String> known = new TreeSet<>();
    all.forEach(settings -> engines.of(settings).map(Engine::name).ifPresent(known::add));
    List<Script> scripts = scripts(project);
    if (open.isEmpty() || scripts.isEmpty()) {
      return Optional.empty();
    }
    if (known.isEmpty()) {
      return Optional.of(
          note(
              open.get(),
              "it is not known for what engine the scripts are, so their statements were not"
                  + " examined"));
    }
    Set<String> others = new TreeSet<>();
    scripts.forEach(
        script -> script.sections().forEach(section -> others.addAll(section.engines())));
    others.removeAll(known);
    return others.isEmpty()
        ? Optional.empty()
        : Optional.of(
            note(
                open.get(),
                "statements on " + String.join(" and ", others) + " were not examined"));
  }

  private static Problem note(EnvironmentSettings open, String found) {
    return new Problem(
        Problem.Severity.NOTE,
        open.url().place(),
        found + ": the url of " + open.name() + " holds a variable that is not set",
        "set it in the process's environment or in .env");
  }

  private static List<Script> scripts(Project project) {
    List<Script> scripts = new ArrayList<>();
    project.rungs().stream().map(Rung::script).forEach(scripts::add);
    project.standing().stream().map(StandingScript::script).forEach(scripts::add);
    return scripts;
  }
}

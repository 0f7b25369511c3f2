package org.wornladder.service;

import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.RefusedException.Refusal;
import org.wornladder.project.Header;
import org.wornladder.project.Project;
import org.wornladder.project.Rung;
import org.wornladder.project.Section;
import org.wornladder.project.Template;

/** What keeps a rung out of a fold: its way up is not the same in every database. */
final class FoldLimits {
  private static final Pattern VALUE = Pattern.compile("(?<!@)@\\{\\s*([\\w.-]+)[^}]*\\}");

  private FoldLimits() {}

  static Optional<Refusal> refusal(Project project, Rung rung) {
    return reason(project, rung)
        .map(
            reason ->
                new Refusal(
                    rung.label() + " cannot be folded: " + reason,
                    rung.file(),
                    "fold up to a rung before it"));
  }

  private static Optional<String> reason(Project project, Rung rung) {
    Header header = rung.script().header();
    if (!header.onlyIn().isEmpty()) {
      return Optional.of("it runs only in " + String.join(", ", header.onlyIn()));
    }
    if (!header.conditions().isEmpty()) {
      return Optional.of("it runs under a condition");
    }
    for (String value : values(rung)) {
      if (isOfEnvironment(project, value)) {
        return Optional.of("its value @{" + value + "} is not the same everywhere");
      }
    }
    return Optional.empty();
  }

  private static Set<String> values(Rung rung) {
    Set<String> names = new TreeSet<>();
    for (Section section : rung.script().sections()) {
      Matcher found = VALUE.matcher(section.text());
      while (found.find()) {
        names.add(found.group(1));
      }
    }
    return names;
  }

  private static boolean isOfEnvironment(Project project, String value) {
    Template everywhere = project.settings().values().get(value);
    return everywhere == null
        || everywhere.hasVariable()
        || project.settings().environments().values().stream()
            .anyMatch(environment -> environment.values().containsKey(value));
  }
}

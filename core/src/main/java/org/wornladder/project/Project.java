package org.wornladder.project;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;

/**
 * Everything on disk, read once.
 *
 * @param root the project's folder, absolute
 * @param rungs by number, lowest first
 * @param standing in the order in which they run
 * @param notes what is worth saying although nothing is wrong
 */
public record Project(
    Path root,
    Settings settings,
    List<Rung> rungs,
    List<StandingScript> standing,
    List<Problem> notes) {

  public String name() {
    return settings.name();
  }

  /** Which names of engines its files may use, beside those that are built in. */
  public Predicate<String> engineNames(Predicate<String> others) {
    return others.or(settings.driverNames()::contains);
  }

  /** The rung of a number; empty if there is no file for it. */
  public Optional<Rung> rung(long number) {
    int low = 0;
    int high = rungs.size() - 1;
    while (low <= high) {
      int middle = (low + high) >>> 1;
      int order = Long.compare(rungs.get(middle).number(), number);
      if (order == 0) {
        return Optional.of(rungs.get(middle));
      }
      if (order < 0) {
        low = middle + 1;
      } else {
        high = middle - 1;
      }
    }
    return Optional.empty();
  }

  /** The same with one more rung, which is the last. */
  public Project and(Rung rung) {
    List<Rung> more = new ArrayList<>(rungs);
    more.add(rung);
    return new Project(root, settings, more, standing, notes);
  }

  /** The same with one rung in the place of several. */
  public Project with(List<Rung> replaced, Rung fold) {
    List<Rung> others = new ArrayList<>(rungs);
    others.removeAll(replaced);
    others.add(0, fold);
    return new Project(root, settings, others, standing, notes);
  }

  /** A number as this project writes it: with the leading zeros that its files have. */
  public String label(long number) {
    Optional<Rung> rung = rung(number);
    return rung.isPresent() ? rung.get().label() : RungNames.label(number);
  }
}

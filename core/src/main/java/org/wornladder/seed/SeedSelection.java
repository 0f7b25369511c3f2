package org.wornladder.seed;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.wornladder.ProjectException;
import org.wornladder.RefusedException;
import org.wornladder.SeedOptions;
import org.wornladder.project.Environment;
import org.wornladder.project.NearestWord;
import org.wornladder.project.ProjectReader;
import org.wornladder.project.Seed;
import org.wornladder.sql.Place;

/** The seeds that are meant in an environment. */
public record SeedSelection(List<Seed> all, Environment environment) {
  /** The seeds that are for this environment, as far as they are meant. */
  public List<Seed> of(SeedOptions options) {
    if (options.sample().isPresent()) {
      return options.sample().get().tables().stream().distinct().map(this::sampled).toList();
    }
    List<String> labels = all.stream().map(Seed::label).toList();
    for (String name : options.only()) {
      if (!labels.contains(name)) {
        throw ProjectException.of(
            Place.of(ProjectReader.SETTINGS),
            "there is no seed of " + name,
            NearestWord.advice(name, labels));
      }
    }
    List<Seed> here = new ArrayList<>();
    for (Seed seed : all) {
      boolean meant = options.only().isEmpty() || options.only().contains(seed.label());
      boolean made = seed.form() == Seed.Form.SAMPLE && environment.settings().guarded();
      if (meant && seed.isFor(environment.name()) && !made) {
        here.add(seed.in(environment.name()));
      }
    }
    return here;
  }

  /** The seed of a table whose rows shall be made up; one of its own where none is written. */
  private Seed sampled(String table) {
    if (environment.settings().guarded()) {
      throw RefusedException.of(
          environment.name() + " is guarded: no rows are made up there",
          "environment " + environment.name(),
          "");
    }
    Optional<Seed> written =
        all.stream()
            .filter(seed -> seed.label().equals(table))
            .max(
                Comparator.comparing((Seed seed) -> seed.isFor(environment.name()))
                    .thenComparing(Seed::isSample))
            .map(seed -> seed.in(environment.name()));
    if (written.filter(seed -> !seed.isFor(environment.name())).isPresent()) {
      throw RefusedException.of(
          "the seed of " + table + " is not for " + environment.name(),
          written.get().place().toString(),
          "only-in says where it is for");
    }
    String file = Seed.FOLDER + "/" + table + Seed.Form.SAMPLE.ending();
    return written
        .filter(seed -> seed.form() == Seed.Form.SAMPLE)
        .orElseGet(
            () ->
                new Seed(
                    Place.of("sample rows of " + table),
                    Seed.Form.SAMPLE,
                    table,
                    file,
                    written.map(Seed::key).orElse(List.of()),
                    // Rows that are there are somebody's, and no guess is worth them.
                    false,
                    false,
                    List.of()));
  }
}

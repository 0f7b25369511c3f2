package org.wornladder.fuzz;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.wornladder.LadderException;
import org.wornladder.project.ProjectReader;

/** The files of a project: its settings and a rung. */
final class ProjectTarget implements Fuzz.Target {
  private static final List<String> SETTINGS =
      List.of(
          """
          name: hollowfield
          default: dev
          environments:
            dev: { url: "jdbc:sqlite:data/dev.db", disposable: true }
            live:
              url: ${LIVE_URL}
              guarded: true
              promoted-from: dev
          values: { season: "2026" }
          seeds:
            - table: grade
              key: [code]
              existing: update
              extra: delete
            - { table: bin, rows: "seeds/bin-@{environment}.csv", only-in: [dev] }
            - sql: seeds/season.sql
          ignore: ["table:legacy_*"]
          journal: { table: ladder_journal }
          late: refuse
          numbering: sequence
          """);
  private static final List<String> RUNGS =
      List.of(
          """
          --| about: bins
          --| when: table app.bin is missing
          --| otherwise: pass
          --| run: outside-transaction
          --| up on postgres, h2
          CREATE TABLE bin (id int, season text DEFAULT '@{season}');
          --| up
          CREATE TABLE bin (id int);
          --| down
          DROP TABLE bin;
          """);

  private final Path root;

  ProjectTarget(Path root) {
    this.root = root;
  }

  @Override
  public void feed(Mutator mutator, List<String> corpus) throws IOException {
    Files.createDirectories(root.resolve("rungs"));
    Files.writeString(root.resolve("ladder.yaml"), mutated(mutator, SETTINGS, corpus));
    Files.writeString(root.resolve("rungs/0001-bins.sql"), mutated(mutator, RUNGS, corpus));
    try {
      ProjectReader.read(root, name -> false);
    } catch (LadderException e) {
      // Documented: what is wrong with the files.
      return;
    }
  }

  /** One of the texts, mutated half of the time; a file cannot hold half a character. */
  private static String mutated(Mutator mutator, List<String> texts, List<String> corpus) {
    String text = mutator.any(texts);
    String made = mutator.random().nextBoolean() ? mutator.mutated(text, corpus) : text;
    return made.replaceAll("[\\uD800-\\uDFFF]", "?");
  }
}

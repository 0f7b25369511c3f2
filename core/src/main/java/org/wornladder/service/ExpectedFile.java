package org.wornladder.service;

import java.util.ArrayList;
import java.util.List;
import org.wornladder.ProjectException;
import org.wornladder.engine.BadValueException;
import org.wornladder.engine.JsonLists;
import org.wornladder.journal.Entry;
import org.wornladder.journal.EntrySubject;
import org.wornladder.journal.History;
import org.wornladder.schema.Snapshot;
import org.wornladder.sql.Place;

/**
 * What an environment should have, for where it cannot be asked: lines of JSON, the first one of
 * what this is, one for each rung and standing script in place, and the structure last. No row is
 * in it.
 *
 * @param rungs as the journal has them, in the order in which they ran
 * @param standing likewise
 */
record ExpectedFile(
    String environment, List<EntrySubject> rungs, List<EntrySubject> standing, Snapshot structure) {
  private static final String KIND = "ladder-expected";
  private static final String VERSION = "1";

  static ExpectedFile of(String environment, History history, Snapshot structure) {
    List<EntrySubject> rungs = new ArrayList<>();
    history
        .inPlaceNewestFirst()
        .forEach(
            record ->
                rungs.add(
                    0,
                    new EntrySubject(
                        record.number(),
                        record.run().subject().name(),
                        record.up().text(),
                        record.up().fingerprint(),
                        record.run().subject().downFingerprint(),
                        record.run().subject().script())));
    return new ExpectedFile(
        environment,
        rungs,
        history.standing().values().stream().map(Entry::subject).toList(),
        structure);
  }

  String text() {
    StringBuilder text = new StringBuilder();
    text.append(JsonLists.write(KIND, VERSION, environment)).append('\n');
    rungs.forEach(one -> text.append(line("rung", one)).append('\n'));
    standing.forEach(one -> text.append(line("standing", one)).append('\n'));
    return text.append(structure.json()).append('\n').toString();
  }

  private static String line(String kind, EntrySubject one) {
    return JsonLists.write(
        kind,
        Long.toString(one.rung()),
        one.name(),
        one.upText(),
        one.upFingerprint(),
        one.downFingerprint(),
        one.script());
  }

  /**
   * Reads one.
   *
   * @param file for messages
   * @throws ProjectException if it is none, or another version's
   */
  static ExpectedFile read(String file, String text) {
    List<String> lines = text.lines().toList();
    List<String> first = lines.isEmpty() ? List.of() : parts(file, 1, lines.get(0));
    if (first.size() != 3 || !first.get(0).equals(KIND) || !first.get(1).equals(VERSION)) {
      throw wrong(file, 1, "this is no expected structure of this version");
    }
    List<EntrySubject> rungs = new ArrayList<>();
    List<EntrySubject> standing = new ArrayList<>();
    for (int i = 1; i < lines.size() - 1; i++) {
      List<String> parts = parts(file, i + 1, lines.get(i));
      if (parts.size() != 7 || !parts.get(1).matches("\\d{1,18}")) {
        throw wrong(file, i + 1, "this line is not as it was written");
      }
      EntrySubject subject =
          new EntrySubject(
              Long.parseLong(parts.get(1)),
              parts.get(2),
              parts.get(3),
              parts.get(4),
              parts.get(5),
              parts.get(6));
      (parts.get(0).equals("rung") ? rungs : standing).add(subject);
    }
    Snapshot structure =
        Snapshot.read(lines.get(lines.size() - 1))
            .orElseThrow(() -> wrong(file, lines.size(), "this structure cannot be read"));
    return new ExpectedFile(first.get(2), rungs, standing, structure);
  }

  private static List<String> parts(String file, int line, String text) {
    try {
      return JsonLists.read(text).stream().map(String::valueOf).toList();
    } catch (BadValueException e) {
      throw wrong(file, line, "this line is not as it was written");
    }
  }

  private static ProjectException wrong(String file, int line, String reason) {
    return ProjectException.of(
        new Place(file, line, 1), reason, "export it again, by this version");
  }
}

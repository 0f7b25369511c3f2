package org.wornladder.project;

import java.util.List;
import java.util.Optional;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Fingerprint;
import org.wornladder.sql.Place;

/**
 * A rung's or a standing script's file: directives, then the ways up and down.
 *
 * @param file relative to the project
 * @param noWayDown why there is no way down; empty where the file gives no reason
 * @param source the file's whole text
 */
public record Script(
    String file, Header header, List<Section> sections, Optional<String> noWayDown, String source) {
  /** The directives that steer a way down. */
  private static final List<String> WAY_DOWN = List.of("run", "lifts", "statement-end");

  /** Whether it is a file of commands of a document database, as JSON. */
  public boolean isOfCommands() {
    return file.endsWith(RungNames.JSON);
  }

  /** The section that serves an engine: its own if there is one, else the plain one. */
  public Optional<Section> section(Direction direction, String engine) {
    Optional<Section> plain = Optional.empty();
    for (Section section : sections) {
      if (section.direction() == direction) {
        if (section.engines().contains(engine)) {
          return Optional.of(section);
        }
        if (section.engines().isEmpty()) {
          plain = Optional.of(section);
        }
      }
    }
    return plain;
  }

  /** The same, its one section beginning elsewhere. */
  Script withTextAt(Place place) {
    Section only = sections.get(0);
    Section moved = new Section(only.direction(), only.engines(), only.text(), place);
    return new Script(file, header, List.of(moved), noWayDown, source);
  }

  public boolean hasWayDown(String engine) {
    return section(Direction.DOWN, engine).isPresent();
  }

  /**
   * The hash of what a way means to an engine: the directives that steer a run and every section of
   * the way, as that engine reads them. 64 hexadecimal digits. A way that is not there has one too,
   * so that taking it away is an edit.
   *
   * @param dialect of the engine
   */
  public String fingerprint(Direction direction, Dialect dialect) {
    Fingerprint fingerprint = Fingerprint.by(dialect);
    for (String line : header.steering()) {
      fingerprint.line(line);
    }
    for (Section section : sections) {
      if (section.direction() == direction) {
        fingerprint.line(direction.label() + " " + String.join(",", section.engines()));
        fingerprint.script(section.text(), dialect);
      }
    }
    return fingerprint.hex();
  }

  /**
   * The hash of the file as it is, line ends as LF: where it is the same, so is the meaning, and
   * the tokens need not be read.
   */
  public String fileHash() {
    return Fingerprint.sha256(source.replace("\r\n", "\n"));
  }

  /**
   * The way down as a script of its own, for the journal: the directives that steer it and every
   * section, before values are put in.
   */
  public String wayDownText() {
    StringBuilder text = new StringBuilder();
    for (String line : header.steering()) {
      if (WAY_DOWN.contains(line.substring(0, line.indexOf(':')))) {
        text.append("--| ").append(line).append('\n');
      }
    }
    noWayDown.ifPresent(reason -> text.append("--| no way down: ").append(reason).append('\n'));
    for (Section section : sections) {
      if (section.direction() == Direction.DOWN) {
        text.append("--| down");
        if (!section.engines().isEmpty()) {
          text.append(" on ").append(String.join(", ", section.engines()));
        }
        text.append('\n').append(section.text());
        if (!section.text().endsWith("\n")) {
          text.append('\n');
        }
      }
    }
    return text.toString();
  }
}

package org.wornladder.scratch;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.wornladder.LadderException;
import org.wornladder.change.ChangeScript;
import org.wornladder.change.ChangeScript.Origin;
import org.wornladder.change.CreationScript;
import org.wornladder.change.Differences;
import org.wornladder.change.IgnoreFilter;
import org.wornladder.engine.Session;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ProjectContext;
import org.wornladder.journal.Entry;
import org.wornladder.journal.History;
import org.wornladder.project.Condition;
import org.wornladder.project.Project;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Snapshot;

/**
 * Makes a scratch database like another one: its structure, its journal, and, where the project's
 * own rungs lead there, the rows that they add.
 */
public record ScratchCopy(ProjectContext project, EnvironmentContext scratch) {
  /** What is said where something differs. */
  public static final String NOT_ALL =
      "not everything could be made anew in the scratch database as it is there";

  /**
   * Makes it.
   *
   * @param structure of the other database, without owners and grants
   * @param entries of its journal, of all projects
   * @param withRows whether the rungs run that are in place there, for the rows that they add
   * @return false if the structure could not be made as it is there
   */
  public boolean make(Snapshot structure, List<Entry> entries, boolean withRows)
      throws SQLException {
    ChangeProof proof = new ChangeProof(scratch, ignored());
    OptionalLong last = withRows ? lastInPlace(entries) : OptionalLong.empty();
    boolean made = last.isPresent() && isReplayed(structure, last);
    if (!made) {
      if (last.isPresent()) {
        new ScratchRunner(project).empty(scratch);
      }
      made = proof.make(structure);
    }
    forgetJournal();
    scratch.journal().restore(entries);
    return made;
  }

  /**
   * Makes it with some of the other database's rows. Triggers come behind the rows, for which they
   * ran there already.
   *
   * @return what could not be made, in words
   */
  public List<String> make(Snapshot structure, List<Entry> entries, RowSample rows)
      throws SQLException {
    List<String> faults = new ArrayList<>();
    ChangeProof proof = new ChangeProof(scratch, ignored());
    List<DatabaseObject> triggers =
        structure.objects().stream().filter(object -> object.kind() == Kind.TRIGGER).toList();
    Snapshot untriggered = structure.without(Kind.TRIGGER);
    boolean made = proof.make(untriggered);
    rows.write(scratch).ifPresent(why -> faults.add("the rows do not fit: " + why));
    List<String> last = CreationScript.of(triggers, session().ddl()).statements();
    if (proof.run("the triggers", last, structure).isPresent() || !made) {
      faults.add(NOT_ALL);
    }
    forgetJournal();
    scratch.journal().restore(entries);
    return faults;
  }

  private Session session() {
    return scratch.session();
  }

  private IgnoreFilter ignored() {
    return new IgnoreFilter(project.project().settings().ignore());
  }

  /** Runs the rungs that are in place there, and then makes up for what differs still. */
  private boolean isReplayed(Snapshot structure, OptionalLong last) throws SQLException {
    try {
      new ScratchRunner(project).run(scratch, last);
      Snapshot now = scratch.structure().snapshot().withoutRights();
      ChangeScript rest =
          ChangeScript.of(
              Differences.between(now, structure),
              now,
              structure,
              session().ddl(),
              Origin.TWO_DATABASES);
      return new ChangeProof(scratch, ignored())
          .run("what differs", rest.statements(), structure)
          .isEmpty();
    } catch (LadderException e) {
      // A rung that does not run on an empty database: the structure is made without it.
      return false;
    }
  }

  /** The highest rung in place, if all rungs of the project up to it are; otherwise empty. */
  private OptionalLong lastInPlace(List<Entry> entries) {
    Project files = project.project();
    List<Entry> own =
        entries.stream().filter(entry -> entry.project().equals(files.name())).toList();
    History history = History.of(own, Optional.empty(), scratch.engine().dialect());
    long last = history.highest();
    boolean whole =
        files.rungs().stream()
                .filter(rung -> rung.number() <= last)
                .allMatch(rung -> history.isInPlace(rung.number()))
            && history.inPlaceNewestFirst().stream()
                .allMatch(record -> files.rung(record.number()).isPresent());
    return whole && last > 0 ? OptionalLong.of(last) : OptionalLong.empty();
  }

  /** The replay's own entries. */
  private void forgetJournal() throws SQLException {
    for (String table : scratch.journal().tables()) {
      Condition.Presence there =
          new Condition.Presence(Condition.Kind.TABLE, table, "", true, "own");
      if (session().exists(there)) {
        scratch.execute("DROP TABLE " + session().quoted(table));
      }
    }
  }
}

package org.wornladder.execution;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.wornladder.ProjectException;
import org.wornladder.engine.Ability;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Objection;
import org.wornladder.project.Batching;
import org.wornladder.project.Condition;
import org.wornladder.project.Direction;
import org.wornladder.project.Environment;
import org.wornladder.project.Header;
import org.wornladder.project.Problem;
import org.wornladder.project.Script;
import org.wornladder.project.Section;
import org.wornladder.project.Substitution;
import org.wornladder.project.Value;
import org.wornladder.sql.Fingerprint;
import org.wornladder.sql.Place;
import org.wornladder.sql.Splitter;
import org.wornladder.sql.SqlTextException;
import org.wornladder.sql.Statement;

/** Makes a script's way ready for one environment: values put in, split, and checked. */
public final class ScriptPreparation {
  private final Engine engine;
  private final Environment environment;

  public ScriptPreparation(Engine engine, Environment environment) {
    this.engine = engine;
    this.environment = environment;
  }

  /**
   * The statements of a way; none if the script has no such way for this engine.
   *
   * @throws ProjectException if the text cannot be read, or a statement cannot be in it
   */
  public List<Statement> statements(Script script, Direction direction) {
    Optional<Section> section = script.section(direction, engine.name());
    if (section.isEmpty()) {
      return List.of();
    }
    Substitution filled = Substitution.in(section.get(), environment.values(), engine.quoting());
    List<Statement> statements =
        split(filled.text(), section.get().place(), script.header().statementEnd());
    refuse(
        conditions(script, section.get().place()),
        statements,
        !script.header().outsideTransaction());
    if (direction == Direction.UP) {
      script.header().batching().ifPresent(batching -> refuseBatches(script, statements, batching));
    }
    return statements;
  }

  private void refuseBatches(Script script, List<Statement> statements, Batching batching) {
    Header header = script.header();
    boolean alone = header.lifts().isEmpty() && header.conditions().isEmpty();
    if (statements.size() != 1 || !alone) {
      throw ProjectException.of(
          statements.isEmpty() ? Place.of(script.file()) : statements.get(0).place(),
          statements.size() == 1
              ? "a rung that runs in batches lifts nothing, and has no condition"
              : "a rung that runs in batches has one statement, and this one has "
                  + statements.size(),
          "write the others into rungs of their own");
    }
    if (!engine.abilities().contains(Ability.BATCHES)) {
      throw ProjectException.of(
          statements.get(0).place(),
          engine.name() + " is served by its driver alone, which runs nothing in batches",
          "take --| in-batches-of out");
    }
    if (batching.lag().isPresent() && !engine.abilities().contains(Ability.REPLICA_LAG)) {
      throw ProjectException.of(
          statements.get(0).place(),
          engine.name() + " does not show how far its replicas are behind",
          "write --| pause: 50ms instead of replicas-within");
    }
    BatchedText.of(statements.get(0), batching);
  }

  private List<Statement> split(String text, Place origin, Optional<String> end) {
    try {
      return end.isPresent()
          ? Splitter.split(text, engine.dialect(), origin, end.get())
          : Splitter.split(text, engine.dialect(), origin);
    } catch (SqlTextException e) {
      throw ProjectException.of(origin.plus(text, e.offset()), e.getMessage(), e.next());
    }
  }

  /** The queries by which a script decides whether it runs. */
  private List<Statement> conditions(Script script, Place section) {
    return script.header().conditions().stream()
        .filter(Condition.Query.class::isInstance)
        .map(query -> new Statement(query.text(), Place.of(section.file()), engine.dialect()))
        .toList();
  }

  private void refuse(
      List<Statement> conditions, List<Statement> statements, boolean insideTransaction) {
    List<Problem> problems = new ArrayList<>();
    conditions.forEach(condition -> reach(condition).ifPresent(problems::add));
    for (Statement statement : statements) {
      Optional<Objection> objection = engine.objection(statement, insideTransaction);
      reach(statement).ifPresent(problems::add);
      objection.ifPresent(
          found ->
              problems.add(
                  new Problem(
                      Problem.Severity.ERROR, statement.place(), found.reason(), found.next())));
    }
    if (!problems.isEmpty()) {
      throw new ProjectException(problems);
    }
  }

  /** What is wrong with a statement that reaches the machine where it is sent from. */
  private Optional<Problem> reach(Statement statement) {
    return environment.settings().clientFiles()
        ? Optional.empty()
        : engine
            .reachesClient(statement)
            .map(
                what ->
                    new Problem(
                        Problem.Severity.ERROR,
                        statement.place(),
                        what,
                        "client-files: allow under "
                            + environment.name()
                            + " in ladder.yaml allows it"));
  }

  /**
   * The fingerprint of a standing script and of the values it uses. A secret does not count: not
   * even its hash may be in a journal.
   */
  public String standingFingerprint(Script script) {
    Fingerprint fingerprint = new Fingerprint();
    for (Direction direction : Direction.values()) {
      fingerprint.line(script.fingerprint(direction, engine.dialect()));
    }
    Set<String> used = new LinkedHashSet<>();
    for (Direction direction : Direction.values()) {
      script
          .section(direction, engine.name())
          .map(section -> Substitution.in(section, environment.values(), engine.quoting()).used())
          .ifPresent(used::addAll);
    }
    for (String name : used) {
      Value value = environment.values().get(name);
      fingerprint.line(value.secret() ? name : name + "=" + value.text());
    }
    return fingerprint.hex();
  }
}

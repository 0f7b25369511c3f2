package org.wornladder.junit;

import java.nio.file.Path;
import java.util.Optional;
import javax.sql.DataSource;
import org.junit.jupiter.api.extension.AfterAllCallback;
import org.junit.jupiter.api.extension.BeforeAllCallback;
import org.junit.jupiter.api.extension.ExtensionContext;
import org.junit.jupiter.api.extension.ParameterContext;
import org.junit.jupiter.api.extension.ParameterResolver;
import org.wornladder.Ladder;
import org.wornladder.TemporaryDatabase;

/**
 * Gives a test class a database of its own: all rungs and standing scripts in place, with the
 * reference data, on the engine of an environment of the project. It is dropped behind the last
 * test.
 *
 * <pre>{@code
 * @RegisterExtension
 * static final LadderExtension LADDER = LadderExtension.onClassPath("db/ladder");
 *
 * @Test
 * void binsAreWeighed(DataSource database) { … }
 * }</pre>
 *
 * <p>A test may ask for a {@link TemporaryDatabase} or a {@link DataSource} as a parameter.
 */
public final class LadderExtension
    implements BeforeAllCallback, AfterAllCallback, ParameterResolver {
  private final Ladder.Builder project;
  private Optional<String> like = Optional.empty();
  private boolean seed = true;
  private Optional<Ladder> ladder = Optional.empty();
  private Optional<TemporaryDatabase> database = Optional.empty();

  private LadderExtension(Ladder.Builder project) {
    this.project = project;
  }

  /** Of a project in a folder. */
  public static LadderExtension of(Path folder) {
    return new LadderExtension(Ladder.builder().project(folder));
  }

  /** Of a project among the resources, such as {@code db/ladder}. */
  public static LadderExtension onClassPath(String folder) {
    ClassLoader loader = Thread.currentThread().getContextClassLoader();
    return new LadderExtension(Ladder.builder().projectOnClassPath(folder, loader));
  }

  /** On the engine, and on the server, of this environment instead of the default one. */
  public LadderExtension like(String environment) {
    like = Optional.of(environment);
    return this;
  }

  /** Without reference data. */
  public LadderExtension unseeded() {
    seed = false;
    return this;
  }

  /**
   * The database.
   *
   * @throws IllegalStateException outside of the tests
   */
  public TemporaryDatabase database() {
    return database.orElseThrow(
        () -> new IllegalStateException("there is a database from @BeforeAll to @AfterAll alone"));
  }

  @Override
  public void beforeAll(ExtensionContext context) {
    ladder = Optional.of(project.build());
    database = ladder.map(one -> one.temporaryDatabase(like, seed));
  }

  @Override
  public void afterAll(ExtensionContext context) {
    database.ifPresent(TemporaryDatabase::close);
    ladder.ifPresent(Ladder::close);
    database = Optional.empty();
  }

  @Override
  public boolean supportsParameter(ParameterContext parameter, ExtensionContext context) {
    Class<?> type = parameter.getParameter().getType();
    return type == TemporaryDatabase.class || type == DataSource.class;
  }

  @Override
  public Object resolveParameter(ParameterContext parameter, ExtensionContext context) {
    return parameter.getParameter().getType() == DataSource.class
        ? database().dataSource()
        : database();
  }
}

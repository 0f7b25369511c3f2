package org.wornladder.engine;

import java.nio.file.Path;
import java.time.Duration;
import java.util.Optional;
import java.util.function.Consumer;
import javax.sql.DataSource;
import org.wornladder.project.Environment;

/**
 * A database to open.
 *
 * @param dataSource gives the connections, instead of the environment's url; empty for the url
 * @param root the project's folder, from which relative paths are taken
 * @param lockWait how long to wait for a lock that somebody else holds; zero for not at all
 * @param await how long to wait for a server that does not answer yet; zero for not at all
 * @param onWait receives once what is waited for, if something is
 */
public record Target(
    Environment environment,
    Optional<DataSource> dataSource,
    Path root,
    Duration lockWait,
    Duration await,
    Consumer<String> onWait) {
  /** A throw-away database in its place; a program's data source does not lead there. */
  public Target with(Environment standIn) {
    return new Target(standIn, Optional.empty(), root, lockWait, await, onWait);
  }
}

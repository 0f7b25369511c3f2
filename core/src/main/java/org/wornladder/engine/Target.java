package org.wornladder.engine;

import java.nio.file.Path;
import java.time.Duration;
import org.wornladder.project.Environment;

/**
 * A database to open.
 *
 * @param root the project's folder, from which relative paths are taken
 * @param lockWait how long to wait for a lock that somebody else holds; zero for not at all
 */
public record Target(Environment environment, Path root, Duration lockWait) {}

package org.wornladder.project;

/**
 * Where scratch databases are made, as {@code scratch:} in {@code ladder.yaml} says.
 *
 * @param server how to reach it
 * @param mayErase whether the database that it names is itself the scratch database, and emptied
 *     for that; otherwise databases are made on its server
 * @param ownServer whether nothing else lives on that server, so that statements may reach out of
 *     the database
 */
public record ScratchSettings(EnvironmentSettings server, boolean mayErase, boolean ownServer) {
  /** The name that messages have for it. */
  public static final String NAME = "scratch";
}

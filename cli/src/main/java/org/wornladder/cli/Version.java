package org.wornladder.cli;

/** The program's version, as the build wrote it into the jar. */
public final class Version {
  public static final String TEXT = read();
  public static final String LINE = "ladder " + TEXT;

  private Version() {}

  private static String read() {
    String version = Version.class.getPackage().getImplementationVersion();
    return version == null ? "unpackaged" : version;
  }
}

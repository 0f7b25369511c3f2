package org.wornladder.cli;

/** The program's version, put in by the build. */
public final class Version {
  public static final String TEXT = "${project.version}";
  public static final String LINE = "ladder " + TEXT;

  private Version() {}
}

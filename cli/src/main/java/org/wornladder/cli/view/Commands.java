package org.wornladder.cli.view;

/** Commands that work when they are copied. */
final class Commands {
  private Commands() {}

  /** The option without which a guarded environment takes no change. */
  static String confirm(String environment, boolean guarded) {
    return guarded ? " --confirm " + environment : "";
  }
}

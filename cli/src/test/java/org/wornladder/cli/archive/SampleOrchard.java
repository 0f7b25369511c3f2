package org.wornladder.cli.archive;

import java.util.function.Supplier;

/** Something with lambdas of its own, by the same names as those of its heir. */
class SampleOrchard {
  Supplier<String> fruit() {
    return () -> "apple of " + name();
  }

  String name() {
    return "orchard";
  }
}

package org.wornladder.execution;

/** How a stuck rung is spoken of. */
final class StuckText {
  private StuckText() {}

  static String inDoubt(String label, UncertainStatement doubt) {
    return label
        + " is stuck: nobody knows whether statement "
        + doubt.statement()
        + " took effect ("
        + doubt.words()
        + ")";
  }

  static String settle(String environment, String label) {
    return "look with ladder show "
        + environment
        + ", then ladder settle "
        + environment
        + " "
        + label
        + " --done --because TEXT; or --not-done --because TEXT";
  }
}

package org.wornladder.project;

import org.wornladder.sql.Place;

/** A setting as it is written, in which {@code ${NAME}} means a variable. */
public record Template(String text, Place place) {
  /** Whether a variable is in it; what comes out of one is a secret. */
  public boolean hasVariable() {
    return text.contains("${");
  }
}

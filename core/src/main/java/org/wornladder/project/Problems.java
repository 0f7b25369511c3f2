package org.wornladder.project;

import java.util.ArrayList;
import java.util.List;
import org.wornladder.Advice;
import org.wornladder.sql.Place;

/** Collects what is found while files are read. */
final class Problems {
  private final List<Problem> found = new ArrayList<>();

  void error(Place place, String message, String hint) {
    found.add(Problem.error(place, message, hint));
  }

  void error(Place place, String message, Advice advice) {
    found.add(Problem.error(place, message, advice));
  }

  void note(Place place, String message, String hint) {
    found.add(Problem.note(place, message, hint));
  }

  boolean hasErrors() {
    for (Problem problem : found) {
      if (problem.isError()) {
        return true;
      }
    }
    return false;
  }

  List<Problem> all() {
    return List.copyOf(found);
  }
}

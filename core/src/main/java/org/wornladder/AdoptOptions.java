package org.wornladder;

import java.util.List;

/**
 * What of a database is taken under management.
 *
 * @param only patterns of what is taken, such as {@code table:bin*}; empty for all
 * @param except patterns of what is not; added to what the project ignores
 * @param rows tables whose rows are written as seed files
 */
public record AdoptOptions(List<String> only, List<String> except, List<String> rows) {
  public AdoptOptions {
    only = List.copyOf(only);
    except = List.copyOf(except);
    rows = List.copyOf(rows);
  }
}

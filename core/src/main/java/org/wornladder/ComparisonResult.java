package org.wornladder;

import java.util.List;
import org.wornladder.change.Difference;

/**
 * Two structures compared.
 *
 * @param left what was named first, such as {@code env:test}; {@code before} in the differences
 * @param common whether only what two engines have in common was compared
 * @param hidden objects that one side may not read: whether they differ is unknown
 */
public record ComparisonResult(
    String left, String right, boolean common, List<Difference> differences, List<String> hidden) {
  public ComparisonResult {
    differences = List.copyOf(differences);
    hidden = List.copyOf(hidden);
  }
}

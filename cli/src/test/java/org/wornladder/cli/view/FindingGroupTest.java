package org.wornladder.cli.view;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.wornladder.Advice;
import org.wornladder.CheckReport.Finding;

class FindingGroupTest {
  private static List<Finding> findings(int count, String next) {
    return IntStream.rangeClosed(1, count)
        .mapToObj(i -> new Finding(next + " " + i, "environment dev", Advice.hint(next)))
        .toList();
  }

  @Test
  void nothingIsNoGroup() {
    assertThat(FindingGroup.of(List.of())).isEmpty();
  }

  @ParameterizedTest
  @CsvSource({"1, 1, 0", "10, 10, 0", "11, 10, 1", "4711, 10, 4701"})
  void ofManyTheFirstStandForAll(int count, int shown, int more) {
    assertThat(FindingGroup.of(findings(count, "get the file back")))
        .singleElement()
        .satisfies(
            group -> {
              assertThat(group.shown()).hasSize(shown);
              assertThat(group.more()).isEqualTo(more);
              assertThat(group.rest().isPresent()).isEqualTo(more > 0);
              assertThat(AdviceText.of(group.advice(), java.util.Set.of()))
                  .isEqualTo("get the file back");
            });
  }

  @Test
  void anotherStepIsAnotherGroupAndTheOrderStays() {
    List<Finding> all = new ArrayList<>(findings(2, "preview"));
    all.addAll(findings(1, "settle"));
    all.addAll(findings(3, "preview"));
    assertThat(FindingGroup.of(all))
        .extracting(
            group -> AdviceText.of(group.advice(), java.util.Set.of()) + " " + group.shown().size())
        .containsExactly("preview 2", "settle 1", "preview 3");
  }
}

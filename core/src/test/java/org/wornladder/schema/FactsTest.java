package org.wornladder.schema;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.HashMap;
import java.util.Map;
import org.junit.jupiter.api.Test;

class FactsTest {
  @Test
  void areInTheOrderOfTheirWords() {
    Map<String, String> facts =
        Facts.with(Facts.of(Map.of("type", "date")), "default", "now()", "collation", "C");
    assertThat(facts.keySet()).containsExactly("collation", "default", "type");
    assertThat(facts.values()).containsExactly("C", "now()", "date");
    assertThat(facts).hasSize(3).containsEntry("type", "date").doesNotContainKey("comment");
  }

  @Test
  void leaveOutWhatIsEmpty() {
    assertThat(Facts.with(Map.of("comment", ""), "default", "")).isEmpty();
    assertThat(Facts.with(Map.of("comment", "in kilos"), "comment", ""))
        .isEqualTo(Map.of("comment", "in kilos"));
  }

  @Test
  void takeTheLaterOfTwo() {
    assertThat(Facts.with(Map.of("comment", "in kilos"), "comment", "in grams"))
        .isEqualTo(Map.of("comment", "in grams"));
  }

  @Test
  void areEqualToAnyMapThatSaysTheSame() {
    Map<String, String> given = new HashMap<>(Map.of("type", "date", "nullable", "no"));
    Map<String, String> facts = Facts.of(given);
    given.put("comment", "said later");
    assertThat(facts)
        .isEqualTo(Facts.with(Map.of(), "nullable", "no", "type", "date"))
        .isEqualTo(Map.of("type", "date", "nullable", "no"))
        .hasSameHashCodeAs(Map.of("type", "date", "nullable", "no"))
        .isNotEqualTo(given);
    assertThat(given).isNotEqualTo(facts);
  }

  @Test
  void neverChange() {
    Map<String, String> facts = Facts.of(Map.of("type", "date"));
    assertThatThrownBy(() -> facts.put("type", "time"))
        .isInstanceOf(UnsupportedOperationException.class);
    assertThatThrownBy(() -> facts.remove("type"))
        .isInstanceOf(UnsupportedOperationException.class);
  }
}

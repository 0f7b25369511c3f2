package org.wornladder.schema;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Names as one text and back. */
class NameListTest {
  private static void both(String text, String... names) {
    assertThat(NameList.write(List.of(names))).isEqualTo(text);
    assertThat(NameList.inParentheses("(" + text + ") to other")).containsExactly(names);
  }

  @Test
  void areToldApartWhateverStandsInThem() {
    both("a", "a");
    both("a, näme, \"b c\"", "a", "näme", "b c");
    both("_1$, \"1a\", \"$\", \"🍐\"", "_1$", "1a", "$", "🍐");
    both("\"a, b\", \"c\"\"d\", \"(e)\", \"\"", "a, b", "c\"d", "(e)", "");
  }

  @Test
  void aTextWithoutParenthesesHoldsNone() {
    assertThat(NameList.inParentheses("CHECK (a > 0)")).isEmpty();
    assertThat(NameList.inParentheses("(\"a)")).isEmpty();
    assertThat(NameList.inParentheses("(a, \"b)")).containsExactly("a");
  }

  @Test
  void theTableThatAKeyPointsToIsReadOffItsName() {
    ForeignKey key =
        ForeignKey.unnamed(
            List.of("a", "b)"), "Odd (one) #2x", List.of("id", "c d"), "NO ACTION", "CASCADE");
    Element element = key.element();
    assertThat(ForeignKey.target(element)).isEqualTo("Odd (one) #2x");
    Element second = new Element(element.kind(), element.name() + " #12", Map.of(), List.of());
    assertThat(ForeignKey.target(second)).isEqualTo("Odd (one) #2x");
    assertThat(NameList.inParentheses(element.name())).containsExactly("a", "b)");
    assertThat(element.fact(ForeignKey.TARGET_COLUMNS)).contains("(id, \"c d\")");
  }

  @Test
  void whatTheEngineInventedDoesNotCount() {
    Element one =
        new Constraint(Kind.CHECK, java.util.Optional.empty(), "c_1", "(a > 0)").element();
    Element other =
        new Constraint(Kind.CHECK, java.util.Optional.empty(), "c_2", "(a > 0)").element();
    assertThat(one).isNotEqualTo(other);
    assertThat(one.meaning()).isEqualTo(other.meaning());
  }
}

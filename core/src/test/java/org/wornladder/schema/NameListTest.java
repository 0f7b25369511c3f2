package org.wornladder.schema;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
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
  void aKeyIsReadOffItsFactsWhateverItsNamesAre() {
    ForeignKey key =
        ForeignKey.unnamed(
            List.of("a", "b)"),
            ObjectId.of(Kind.TABLE, "far", "Odd (one) #2x"),
            List.of("id", "c d"),
            "NO ACTION",
            "CASCADE");
    assertThat(Part.of(Kind.FOREIGN_KEY, "", key.facts(), List.of())).isEqualTo(key);
    assertThat(key.fact(ForeignKey.TARGET_COLUMNS)).contains("(id, \"c d\")");
  }

  @Test
  void whatTheEngineInventedDoesNotCount() {
    Constraint one = new Constraint(Kind.CHECK, Optional.empty(), "c_1", "(a > 0)");
    Constraint other = new Constraint(Kind.CHECK, Optional.empty(), "c_2", "(a > 0)");
    assertThat(one).isNotEqualTo(other);
    assertThat(one.means(other)).isTrue();
  }
}

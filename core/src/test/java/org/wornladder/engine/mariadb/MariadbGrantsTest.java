package org.wornladder.engine.mariadb;

import static org.assertj.core.api.Assertions.assertThat;
import static org.wornladder.schema.Kind.AGGREGATE;
import static org.wornladder.schema.Kind.CHECK;
import static org.wornladder.schema.Kind.COLUMN;
import static org.wornladder.schema.Kind.EVENT;
import static org.wornladder.schema.Kind.FUNCTION;
import static org.wornladder.schema.Kind.GRANT;
import static org.wornladder.schema.Kind.INDEX;
import static org.wornladder.schema.Kind.OTHER;
import static org.wornladder.schema.Kind.PROCEDURE;
import static org.wornladder.schema.Kind.SEQUENCE;
import static org.wornladder.schema.Kind.TABLE;
import static org.wornladder.schema.Kind.TRIGGER;
import static org.wornladder.schema.Kind.VIEW;

import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.wornladder.schema.Kind;

/** What a user cannot know to be there, by what SHOW GRANTS says. */
class MariadbGrantsTest {
  private static final String WHO = " TO `picker`@`%`";

  private static Set<Kind> unseen(String... grants) {
    return MariadbGrants.unseen(List.of(grants), "hollow_field");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "GRANT ALL PRIVILEGES ON *.* TO `picker`@`%` IDENTIFIED BY PASSWORD '*12' WITH GRANT OPTION",
        "GRANT ALL PRIVILEGES ON `hollow_field`.* TO `picker`@`%`",
        "GRANT ALL PRIVILEGES ON `hollow\\_field`.* TO `picker`@`%`",
        "GRANT ALL PRIVILEGES ON `hollow%`.* TO `picker`@`%`",
        "GRANT ALL PRIVILEGES ON \"hollow_field\".* TO \"picker\"@\"%\"",
        "GRANT SELECT, SHOW VIEW, EXECUTE, TRIGGER, EVENT ON `hollow_field`.* TO `picker`@`%`"
      })
  void allIsSeen(String grant) {
    assertThat(unseen("GRANT `sorter`" + WHO, "GRANT USAGE ON *.*" + WHO, grant)).isSubsetOf(GRANT);
  }

  @Test
  void whoReadsTablesSeesNoRoutinesTriggersAndEvents() {
    assertThat(unseen("GRANT SELECT ON `hollow_field`.*" + WHO))
        .containsExactlyInAnyOrder(FUNCTION, PROCEDURE, AGGREGATE, OTHER, TRIGGER, EVENT, GRANT);
    assertThat(unseen("GRANT SELECT ON *.*" + WHO)).containsExactlyInAnyOrder(TRIGGER, EVENT);
    assertThat(
            unseen(
                "GRANT SELECT ON `hollow_field`.*" + WHO,
                "GRANT SELECT ON `mysql`.*" + WHO,
                "GRANT EVENT ON `hollow_field`.* TO `sorter`"))
        .containsExactlyInAnyOrder(TRIGGER);
  }

  @Test
  void whoReadsSomeTablesSeesNoOthers() {
    assertThat(unseen("GRANT SELECT, TRIGGER ON `hollow_field`.`bin`" + WHO))
        .contains(TABLE, VIEW, SEQUENCE, TRIGGER)
        .doesNotContain(COLUMN, INDEX);
    assertThat(unseen("GRANT SELECT (`id`, `a ON b`), INSERT (`id`) ON `hollow_field`.`bin`" + WHO))
        .contains(TABLE, COLUMN, CHECK, INDEX);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "GRANT ALL PRIVILEGES ON `hollowXfields`.* TO `picker`@`%`",
        "GRANT ALL PRIVILEGES ON `hollow\\_fields`.* TO `picker`@`%`",
        "GRANT ALL PRIVILEGES ON `hollow_field`.`bin` TO `picker`@`%`",
        "GRANT EXECUTE ON FUNCTION `hollow_field`.`ripe` TO `picker`@`%`",
        "GRANT USAGE ON *.* TO `picker`@`%`"
      })
  void whatIsGrantedOnOthersDoesNotCount(String grant) {
    assertThat(unseen(grant)).contains(TABLE, VIEW, FUNCTION, TRIGGER, EVENT);
  }
}

package org.wornladder.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.sql.SQLException;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.Test;

/** Work on another thread comes to its end, and fails in the words in which it failed. */
class MeanwhileTest {
  @Test
  void whatItComesToIsThereAsOftenAsItIsAskedFor() throws SQLException {
    try (Meanwhile<String> work = Meanwhile.begin(() -> Thread.currentThread().getName())) {
      assertThat(work.get()).isNotEqualTo(Thread.currentThread().getName()).isEqualTo(work.get());
    }
  }

  @Test
  void whatItThrowsIsThrownToWhoAsks() {
    SQLException sql = new SQLException("refused", "42000");
    IllegalArgumentException wrong = new IllegalArgumentException("wrong");
    OutOfMemoryError memory = new OutOfMemoryError("full");
    assertThatThrownBy(() -> failing(sql).get()).isSameAs(sql);
    assertThatThrownBy(() -> failing(wrong).get()).isSameAs(wrong);
    assertThatThrownBy(() -> failing(memory).get()).isSameAs(memory);
    assertThatThrownBy(() -> failing(new IOException("gone")).get())
        .isInstanceOf(SQLException.class)
        .hasCauseInstanceOf(IOException.class);
  }

  private static Meanwhile<String> failing(Throwable failure) {
    return Meanwhile.begin(
        () -> {
          if (failure instanceof Error error) {
            throw error;
          }
          throw (Exception) failure;
        });
  }

  @Test
  void toCloseIsToWaitAndSaysNothingOfAFailure() {
    AtomicBoolean ended = new AtomicBoolean();
    CountDownLatch go = new CountDownLatch(1);
    Meanwhile<String> work =
        Meanwhile.begin(
            () -> {
              go.await();
              ended.set(true);
              throw new SQLException("too late");
            });
    go.countDown();
    assertThatCode(work::close).doesNotThrowAnyException();
    assertThat(ended).isTrue();
  }

  @Test
  void whoIsInterruptedIsToldAndStaysInterrupted() throws Exception {
    CountDownLatch never = new CountDownLatch(1);
    Meanwhile<String> work =
        Meanwhile.begin(
            () -> {
              never.await();
              return "";
            });
    Thread.currentThread().interrupt();
    assertThatThrownBy(work::get)
        .isInstanceOfSatisfying(
            SQLException.class, e -> assertThat(e.getSQLState()).isEqualTo("57014"));
    assertThat(Thread.interrupted()).isTrue();
    never.countDown();
    assertThat(work.get()).isEmpty();
  }
}

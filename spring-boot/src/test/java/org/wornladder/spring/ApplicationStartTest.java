package org.wornladder.spring;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.Test;
import org.springframework.boot.Banner;
import org.springframework.boot.WebApplicationType;
import org.springframework.boot.actuate.health.Health;
import org.springframework.boot.actuate.health.HealthIndicator;
import org.springframework.boot.actuate.health.Status;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.jdbc.core.JdbcTemplate;
import org.wornladder.Ladder;
import org.wornladder.RefusedException;
import org.wornladder.journal.Event;
import org.wornladder.spring.sample.Bin;
import org.wornladder.spring.sample.BinRepository;
import org.wornladder.spring.sample.SampleApplication;

/** An application that is started for real, on databases that nobody prepared. */
class ApplicationStartTest {
  private static ConfigurableApplicationContext start(String database, String... settings) {
    List<String> all = new ArrayList<>(List.of(settings));
    all.add("spring.datasource.url=jdbc:h2:mem:" + database + ";DB_CLOSE_DELAY=-1");
    // The persistence layer refuses to open where a table is missing.
    all.add("spring.jpa.hibernate.ddl-auto=validate");
    return new SpringApplicationBuilder(SampleApplication.class)
        .web(WebApplicationType.NONE)
        .bannerMode(Banner.Mode.OFF)
        .properties(all.toArray(String[]::new))
        .run();
  }

  private static long applied(ConfigurableApplicationContext application) {
    return application.getBean(Ladder.class).history(Optional.empty()).history().entries().stream()
        .filter(entry -> entry.event() == Event.APPLIED)
        .count();
  }

  @Test
  void rungsRunBeforeThePersistenceLayerOpens() {
    try (ConfigurableApplicationContext application = start("first", "worn-ladder.seed=true")) {
      BinRepository bins = application.getBean(BinRepository.class);
      bins.save(new Bin("a", 7));
      assertThat(bins.findAll()).extracting(Bin::code).containsExactly("a");
      assertThat(
              application
                  .getBean(JdbcTemplate.class)
                  .queryForList("SELECT code FROM grade ORDER BY code", String.class))
          .containsExactly("A", "B");
      Health health = application.getBean("ladderHealthIndicator", HealthIndicator.class).health();
      assertThat(health.getStatus()).isEqualTo(Status.UP);
      assertThat(health.getDetails())
          .containsEntry("environment", "app")
          .containsEntry("rung", 2L)
          .containsEntry("waiting", 0L);
    }
    try (ConfigurableApplicationContext again = start("first")) {
      assertThat(again.getBean(BinRepository.class).count()).isEqualTo(1);
      assertThat(applied(again)).isEqualTo(2);
    }
  }

  @Test
  void eightInstancesThatStartAtOnceApplyOnce() throws Exception {
    ExecutorService all = Executors.newFixedThreadPool(8);
    List<Callable<Long>> starts = new ArrayList<>();
    for (int i = 0; i < 8; i++) {
      starts.add(
          () -> {
            try (ConfigurableApplicationContext application =
                start("eight", "spring.jmx.enabled=false")) {
              return application.getBean(BinRepository.class).count();
            }
          });
    }
    for (Future<Long> one : all.invokeAll(starts)) {
      assertThat(one.get()).isZero();
    }
    all.shutdown();
    try (ConfigurableApplicationContext application = start("eight")) {
      assertThat(applied(application)).isEqualTo(2);
    }
  }

  @Test
  void anApplicationThatMayNotApplyStopsWhereRungsWait() {
    assertThatThrownBy(() -> start("bare", "worn-ladder.apply=false"))
        .hasRootCauseInstanceOf(RefusedException.class)
        .rootCause()
        .hasMessage("the database lacks rungs that this application needs: 0001, 0002");
  }

  @Test
  void aProjectThatIsNotThereIsNamed() {
    assertThatThrownBy(() -> start("none", "worn-ladder.project=classpath:nowhere"))
        .rootCause()
        .hasMessage("there is no such file on the class path");
  }

  @Test
  void whereItIsSwitchedOffNothingIsDone() {
    assertThatThrownBy(() -> start("off", "worn-ladder.enabled=false"))
        .rootCause()
        .hasMessageContaining("missing table");
  }
}

package org.wornladder.spring;

import java.util.List;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.beans.factory.InitializingBean;
import org.wornladder.ApplyOptions;
import org.wornladder.Approval;
import org.wornladder.Ladder;
import org.wornladder.RefusedException;
import org.wornladder.RunListener;
import org.wornladder.RunResult;
import org.wornladder.SeedApproval;
import org.wornladder.SeedListener;
import org.wornladder.SeedOptions;
import org.wornladder.Status;

/**
 * Applies what waits while the application starts. Several instances that start at once wait for
 * each other: one works, the others find nothing to do.
 */
public class LadderInitializer implements InitializingBean, DisposableBean {
  private static final Logger LOG = LoggerFactory.getLogger(LadderInitializer.class);

  private final Ladder ladder;
  private final LadderProperties properties;

  public LadderInitializer(Ladder ladder, LadderProperties properties) {
    this.ladder = ladder;
    this.properties = properties;
  }

  /**
   * @throws org.wornladder.LadderException if the database is not as the rungs say and cannot be
   *     brought there; the message says what to do
   */
  @Override
  public void afterPropertiesSet() {
    if (!properties.isApply()) {
      refuseWaiting();
      return;
    }
    Optional<String> confirmed =
        Optional.of(properties.getConfirm()).filter(name -> !name.isEmpty());
    RunResult result =
        ladder.apply(
            properties.named(),
            ApplyOptions.ALL,
            Approval.given(confirmed, true),
            new RunListener() {
              @Override
              public void waiting(String holder) {
                LOG.info("waiting for {}, which is changing the database", holder);
              }
            });
    LOG.info(
        "the database is at rung {}, {} of them applied now", result.at(), result.done().size());
    if (properties.isSeed()) {
      ladder.seed(
          properties.named(), SeedOptions.ALL, SeedApproval.given(confirmed), SeedListener.SILENT);
    }
  }

  private void refuseWaiting() {
    Status status = ladder.status(properties.named());
    if (status.waiting() > 0) {
      List<String> labels =
          status.rungs().stream()
              .filter(line -> line.state() == Status.State.WAITING)
              .map(Status.Line::label)
              .toList();
      throw RefusedException.of(
          "the database lacks rungs that this application needs: " + String.join(", ", labels),
          "environment " + status.environment(),
          "apply them, or set worn-ladder.apply to true");
    }
  }

  @Override
  public void destroy() {
    ladder.close();
  }
}

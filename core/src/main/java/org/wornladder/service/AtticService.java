package org.wornladder.service;

import java.sql.SQLException;
import java.time.Duration;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Optional;
import org.wornladder.Advice;
import org.wornladder.Approval;
import org.wornladder.RefusedException;
import org.wornladder.RunListener;
import org.wornladder.attic.KeptItem;
import org.wornladder.engine.Access;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ProjectContext;
import org.wornladder.journal.History;

/** Looks after what was kept aside of what rungs erased. */
public record AtticService(ProjectContext project) {
  private static final DateTimeFormatter AT =
      DateTimeFormatter.ofPattern("yyyy-MM-dd'T'HH:mm:ss[.SSS]['Z']");

  /** What is kept, the oldest first. */
  public List<KeptItem> list(Optional<String> environment) {
    return project.in(environment, Access.READ, context -> KeptItem.in(context.provenHistory()));
  }

  /**
   * Brings something back, on the record. What does not fit stays where it is kept.
   *
   * @param entry the journal's entry that says that it is kept
   * @return what was done, in words
   * @throws RefusedException if nothing of that number is kept
   */
  public String restore(
      Optional<String> environment, long entry, Approval approval, RunListener listener) {
    return locked(
        environment,
        approval,
        listener,
        (context, items) -> {
          KeptItem item =
              items.stream()
                  .filter(one -> one.entry() == entry)
                  .findFirst()
                  .orElseThrow(() -> notKept(context, entry));
          context.session().begin();
          String words = context.attic().bringBack(item, context.structure());
          context.session().commit();
          return words;
        });
  }

  private static RefusedException notKept(EnvironmentContext context, long entry) {
    String name = context.environment().name();
    return RefusedException.of(
        "nothing is kept under " + entry,
        "environment " + name,
        Advice.of(Advice.Code.LIST_ATTIC, name));
  }

  /**
   * Drops what has been kept for some time, on the record: a roll-back does not bring it back then.
   *
   * @return what was dropped
   */
  public List<KeptItem> empty(
      Optional<String> environment, Duration olderThan, Approval approval, RunListener listener) {
    return locked(
        environment,
        approval,
        listener,
        (context, items) -> {
          LocalDateTime latest =
              LocalDateTime.ofInstant(project.settings().clock().instant(), ZoneOffset.UTC)
                  .minus(olderThan);
          List<KeptItem> old =
              items.stream()
                  .filter(item -> !LocalDateTime.parse(item.at(), AT).isAfter(latest))
                  .toList();
          for (KeptItem item : old) {
            context.session().begin();
            context.attic().empty(item, "kept since " + item.at().substring(0, 10));
            context.session().commit();
          }
          return old;
        });
  }

  private interface Work<T> {
    T run(EnvironmentContext context, List<KeptItem> items) throws SQLException;
  }

  private <T> T locked(
      Optional<String> environment, Approval approval, RunListener listener, Work<T> work) {
    return project.in(
        environment,
        Access.WRITE,
        context ->
            context.locked(
                project.settings(),
                listener::waiting,
                same -> {
                  History history = same.provenHistory();
                  approval.check(same.planning(history).empty(), same.environment());
                  return work.run(same, KeptItem.in(history));
                }));
  }
}

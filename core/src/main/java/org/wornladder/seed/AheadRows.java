package org.wornladder.seed;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import org.wornladder.project.SeedRow;
import org.wornladder.project.SeedRows;
import org.wornladder.sql.Place;

/** Rows that are read and looked over on a thread of their own, while others are on their way. */
final class AheadRows implements SeedRows {
  private static final int ROWS_IN_BLOCK = 256;
  private static final int BLOCKS_AHEAD = 8;

  private final SeedRows rows;

  AheadRows(SeedRows rows) {
    this.rows = rows;
  }

  @Override
  public List<String> columns() {
    return rows.columns();
  }

  @Override
  public Place place(long position) {
    return rows.place(position);
  }

  @Override
  public Place header() {
    return rows.header();
  }

  @Override
  public String fingerprint() {
    return rows.fingerprint();
  }

  @Override
  public <E extends Exception> void each(Visitor<E> visitor) throws E {
    BlockingQueue<Block> queue = new ArrayBlockingQueue<>(BLOCKS_AHEAD);
    Thread thread = new Thread(() -> read(queue), "seed");
    thread.setDaemon(true);
    thread.start();
    try {
      Block block = queue.take();
      while (block.failure().isEmpty() && !block.rows().isEmpty()) {
        for (SeedRow row : block.rows()) {
          visitor.row(row);
        }
        block = queue.take();
      }
      if (!block.failure().isEmpty()) {
        throw block.failure().get(0);
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException("interrupted while rows were read", e);
    } finally {
      thread.interrupt();
    }
  }

  /**
   * Some rows; none at the end.
   *
   * @param failure what ended the reading; empty if nothing did
   */
  private record Block(List<SeedRow> rows, List<RuntimeException> failure) {}

  private void read(BlockingQueue<Block> queue) {
    List<SeedRow> some = new ArrayList<>(ROWS_IN_BLOCK);
    try {
      try {
        rows.<InterruptedException>each(
            row -> {
              some.add(row);
              if (some.size() == ROWS_IN_BLOCK) {
                queue.put(new Block(List.copyOf(some), List.of()));
                some.clear();
              }
            });
      } catch (RuntimeException e) {
        queue.put(new Block(List.of(), List.of(e)));
        return;
      }
      if (!some.isEmpty()) {
        queue.put(new Block(List.copyOf(some), List.of()));
      }
      queue.put(new Block(List.of(), List.of()));
    } catch (InterruptedException e) {
      // Whoever took the rows wants no more of them.
      Thread.currentThread().interrupt();
    }
  }
}

package org.wornladder.seed;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Pairs of numbers by the first one. */
class RowHashesTest {
  @Test
  void holdWhatAPlainMapHolds() {
    Random random = new Random(7);
    RowHashes hashes = new RowHashes();
    Map<Long, Long> model = new HashMap<>();
    for (int i = 0; i < 200_000; i++) {
      // Few bits differ, so that places are taken by others.
      long key = 1 + (random.nextInt(60_000) << 8);
      long rest = 1 + random.nextInt(1000);
      assertThat(hashes.add(key, rest)).isEqualTo(model.putIfAbsent(key, rest) == null);
    }
    assertThat(hashes.size()).isEqualTo(model.size());
    model.forEach((key, rest) -> assertThat(hashes.rest(key)).isEqualTo(rest));
    assertThat(hashes.rest(-5)).isZero();
  }
}

package org.wornladder.bench;

import java.util.concurrent.TimeUnit;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OperationsPerInvocation;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Param;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.Warmup;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Lexer;
import org.wornladder.sql.Place;
import org.wornladder.sql.Splitter;

/** How much SQL text is read in a second: the score is in megabytes. */
@State(Scope.Benchmark)
@BenchmarkMode(Mode.Throughput)
@OutputTimeUnit(TimeUnit.SECONDS)
@Warmup(iterations = 3, time = 2)
@Measurement(iterations = 5, time = 2)
@Fork(1)
public class LexerBench {
  private static final int MEGABYTES = 4;

  @Param({"sqlite", "postgres", "mariadb", "h2"})
  private String engine;

  private Dialect dialect;
  private String text;

  @Setup
  public void text() {
    dialect = Dialects.named(engine).orElseThrow();
    StringBuilder out = new StringBuilder();
    for (int i = 0; out.length() < MEGABYTES << 20; i++) {
      out.append(SampleLadder.up(i)).append("-- a plain comment, as people write them\n");
    }
    text = out.substring(0, out.lastIndexOf(";", MEGABYTES << 20) + 1);
  }

  @Benchmark
  @OperationsPerInvocation(MEGABYTES)
  public int tokens() {
    Lexer lexer = new Lexer(text, dialect);
    int meaning = 0;
    while (lexer.advance()) {
      meaning += lexer.kind().isMeaning() ? 1 : 0;
    }
    return meaning;
  }

  @Benchmark
  @OperationsPerInvocation(MEGABYTES)
  public int statements() {
    return Splitter.split(text, dialect, new Place("bench.sql", 1, 1)).size();
  }
}

package org.wornladder.fuzz;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;

/**
 * Feeds mutated SQL, settings, seeds and journals to what reads them: an exception that is not
 * documented, tokens that are not the text, or rows that are read in two ways end it with the input
 * and the number that makes it again.
 */
public final class Fuzz {
  private static final long REPORT_EVERY = 1_000_000;
  private static final int TEXTS_PER_FILE = 25;

  private Fuzz() {}

  /** One input. */
  interface Target {
    /**
     * @throws IOException if a file cannot be written
     */
    void feed(Mutator mutator, List<String> corpus) throws IOException;
  }

  /**
   * @param args how many inputs; the number of the first one; folders whose files are mutated
   */
  public static void main(String[] args) throws IOException {
    long count = Long.parseLong(args[0]);
    long first = Long.parseLong(args[1]);
    List<String> corpus = new ArrayList<>();
    for (String folder : List.of(args).subList(2, args.length)) {
      corpus.addAll(texts(Path.of(folder)));
    }
    Path work = Files.createTempDirectory("ladder-fuzz");
    Target text = new SqlTarget();
    List<Target> files =
        List.of(new ProjectTarget(work), new SeedTarget(work), new JournalTarget());
    for (long i = first; i < first + count; i++) {
      Mutator mutator = new Mutator(i);
      // A text takes far less time than files do.
      Target target = i % TEXTS_PER_FILE == 0 ? mutator.any(files) : text;
      try {
        target.feed(mutator, corpus);
      } catch (RuntimeException | Error e) {
        System.err.println("input " + i + ", " + target.getClass().getSimpleName() + ": " + e);
        throw e;
      }
      if ((i - first + 1) % REPORT_EVERY == 0) {
        System.out.println((i - first + 1) + " inputs");
      }
    }
    delete(work);
    System.out.println("no input of " + count + " went wrong");
  }

  private static List<String> texts(Path folder) throws IOException {
    List<String> texts = new ArrayList<>();
    try (Stream<Path> files = Files.walk(folder)) {
      for (Path file : files.filter(Files::isRegularFile).sorted().toList()) {
        if (file.toString().matches(".*\\.(sql|txt|yaml|csv|json)")) {
          String text = Files.readString(file);
          texts.addAll(List.of(text.split("\n\n")));
        }
      }
    }
    return texts;
  }

  private static void delete(Path folder) throws IOException {
    try (Stream<Path> files = Files.walk(folder)) {
      for (Path file : files.sorted(Comparator.reverseOrder()).toList()) {
        Files.delete(file);
      }
    }
  }
}

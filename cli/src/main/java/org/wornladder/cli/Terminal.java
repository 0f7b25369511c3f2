package org.wornladder.cli;

import java.io.BufferedOutputStream;
import java.io.BufferedReader;
import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.util.Optional;

/**
 * Where the program reads and writes, and what is at the other end.
 *
 * @param in for answers
 * @param out for results
 * @param err for progress, questions and errors
 * @param inIsTerminal whether a person can answer
 * @param outIsTerminal whether a person reads the results as they come
 * @param width columns of the terminal
 * @param color whether colours may be used
 * @param unicode whether more than ASCII can be drawn
 */
public record Terminal(
    InputStream in,
    PrintStream out,
    PrintStream err,
    boolean inIsTerminal,
    boolean outIsTerminal,
    boolean errIsTerminal,
    int width,
    boolean color,
    boolean unicode) {
  /**
   * Set by the launcher, which can say: the letters i, o and e for terminals at in, out and err.
   */
  private static final String TERMINALS = "ladder.terminals";

  private static final String COLUMNS = "ladder.columns";
  private static final String ASCII = "ladder.ascii";
  private static final int STANDARD_WIDTH = 100;
  private static final int SMALLEST_WIDTH = 40;

  static Terminal ofProcess(InputStream in, PrintStream out, PrintStream err) {
    String terminals = System.getProperty(TERMINALS, "");
    boolean outIsTerminal = terminals.contains("o");
    String noColor = System.getenv("NO_COLOR");
    boolean dumb = "dumb".equals(System.getenv("TERM"));
    return new Terminal(
        in,
        out,
        err,
        terminals.contains("i"),
        outIsTerminal,
        terminals.contains("e"),
        outIsTerminal ? columns() : STANDARD_WIDTH,
        outIsTerminal && !dumb && (noColor == null || noColor.isEmpty()),
        !Boolean.getBoolean(ASCII));
  }

  private static int columns() {
    int columns = Integer.getInteger(COLUMNS, STANDARD_WIDTH);
    return columns > 0 ? Math.max(SMALLEST_WIDTH, columns) : STANDARD_WIDTH;
  }

  /** For results: they come line by line where a person reads along. */
  static PrintStream standardOut() {
    return stream(FileDescriptor.out, !System.getProperty(TERMINALS, "").isEmpty());
  }

  /** For progress and errors: a pipeline's log shows how far a run is, also if it never ends. */
  static PrintStream standardErr() {
    return stream(FileDescriptor.err, true);
  }

  private static PrintStream stream(FileDescriptor target, boolean lineByLine) {
    return new PrintStream(
        new BufferedOutputStream(new FileOutputStream(target), 1 << 13),
        lineByLine,
        StandardCharsets.UTF_8);
  }

  /** Whether a person answers a question with yes; anything else is a no. */
  public boolean agrees(String question) {
    return ask(question)
        .filter(answer -> answer.equalsIgnoreCase("y") || answer.equalsIgnoreCase("yes"))
        .isPresent();
  }

  /** A line that a person types; empty at the end of the input. */
  public Optional<String> ask(String question) {
    err.print(question);
    err.flush();
    try {
      BufferedReader reader = new BufferedReader(new InputStreamReader(in, StandardCharsets.UTF_8));
      return Optional.ofNullable(reader.readLine()).map(String::strip);
    } catch (IOException e) {
      return Optional.empty();
    }
  }

  public void flush() {
    out.flush();
    err.flush();
  }
}

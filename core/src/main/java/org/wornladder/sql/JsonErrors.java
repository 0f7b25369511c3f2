package org.wornladder.sql;

import com.fasterxml.jackson.core.JsonProcessingException;
import java.util.regex.Pattern;

/** What is wrong with a text that should be JSON, for people. */
public final class JsonErrors {
  /** Where the parser itself says that something began. */
  private static final Pattern SOURCE = Pattern.compile("\\[Source: [^;]*; (line[^\\]]*)\\]");

  /** Where it names settings of its own, which are not the user's. */
  private static final Pattern SETTINGS =
      Pattern.compile(
          ", from `StreamReadConstraints[^`]*`|: enable `JsonReadFeature[^`]*` to allow"
              + "| \\(not recognized as one since Feature [^)]*\\)");

  private JsonErrors() {}

  public static String words(JsonProcessingException e) {
    String message = SOURCE.matcher(e.getOriginalMessage()).replaceAll("$1");
    return "this is not JSON: " + SETTINGS.matcher(message).replaceAll("");
  }
}

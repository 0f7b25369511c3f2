package org.wornladder.sql;

import com.fasterxml.jackson.core.JsonProcessingException;
import java.util.regex.Pattern;

/** What is wrong with a text that should be JSON, for people. */
public final class JsonErrors {
  /** Where the parser itself says that something began. */
  private static final Pattern SOURCE = Pattern.compile("\\[Source: [^;]*; (line[^\\]]*)\\]");

  private JsonErrors() {}

  public static String words(JsonProcessingException e) {
    return "this is not JSON: " + SOURCE.matcher(e.getOriginalMessage()).replaceAll("$1");
  }
}

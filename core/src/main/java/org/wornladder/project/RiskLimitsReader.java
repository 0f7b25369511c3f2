package org.wornladder.project;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Reads {@code risks:} of an environment: a risk's word, and from how many rows on it is refused.
 */
final class RiskLimitsReader {
  private static final Pattern REFUSE = Pattern.compile("refuse(?: over (\\d{1,15}) rows?)?");

  private final Problems problems;

  RiskLimitsReader(Problems problems) {
    this.problems = problems;
  }

  RiskLimits read(Fields environment) {
    Map<String, Long> limits = new LinkedHashMap<>();
    Map<String, Template> written = environment.texts("risks");
    written.forEach(
        (risk, limit) -> {
          Matcher refuse = REFUSE.matcher(limit.text());
          if (!HeaderBuilder.RISKS.contains(risk)) {
            problems.error(
                limit.place(),
                "there is no risk '" + risk + "'",
                NearestWord.advice(risk, HeaderBuilder.RISKS));
          } else if (refuse.matches()) {
            limits.put(risk, refuse.group(1) == null ? 0 : Long.parseLong(refuse.group(1)));
          } else if (!limit.text().equals("allow")) {
            problems.error(
                limit.place(),
                risk + " cannot be '" + limit.text() + "'",
                "write refuse, refuse over 100000 rows, or allow");
          }
        });
    return new RiskLimits(limits);
  }
}

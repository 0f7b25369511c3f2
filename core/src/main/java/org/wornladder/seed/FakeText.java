package org.wornladder.seed;

import java.text.Normalizer;
import java.util.Locale;
import java.util.Random;
import java.util.regex.Pattern;
import net.datafaker.Faker;
import org.wornladder.ProjectException;
import org.wornladder.project.Sample;

/** Names, addresses and words by the library of made-up values. */
final class FakeText {
  /** A domain reserved for examples (RFC 2606, section 3). */
  private static final String DOMAIN = "@example.com";

  private static final Pattern MAIL_DOMAIN = Pattern.compile("@[\\w-]+(\\.[\\w-]+)+");

  private final Faker faker;

  private FakeText(Faker faker) {
    this.faker = faker;
  }

  /**
   * @param locale the language and country of names and addresses
   * @throws ProjectException if the library is not there
   */
  static FakeText of(Sample.Column column, Locale locale, Random random) {
    try {
      return new FakeText(new Faker(locale, random));
    } catch (NoClassDefFoundError e) {
      throw ProjectException.of(
          column.place(),
          "the library of made-up values is not on the class path",
          "add net.datafaker:datafaker to the dependencies of the program");
    }
  }

  /**
   * A value; the domain of a mail address in it is replaced by example.com.
   *
   * @param expression such as {@code name.fullName}
   */
  String made(String expression, Sample.Column column) {
    try {
      String made = faker.expression("#{" + expression + "}");
      return MAIL_DOMAIN.matcher(made).replaceAll(DOMAIN);
    } catch (RuntimeException e) {
      throw ProjectException.of(
          column.place(),
          "the library of made-up values has no " + expression,
          "such as name.fullName, address.city, lorem.sentence");
    }
  }

  /**
   * A mail address of a person.
   *
   * @param number appended to the name to make the address unique; 1 is not written
   */
  static String mail(String name, long number) {
    String plain = Normalizer.normalize(name, Normalizer.Form.NFD).replaceAll("\\p{M}", "");
    String word = plain.toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9]+", ".");
    String local = word.replaceAll("^\\.|\\.$", "");
    return (local.isEmpty() ? "person" : local) + (number == 1 ? "" : number) + DOMAIN;
  }
}

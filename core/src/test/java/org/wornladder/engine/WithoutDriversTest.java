package org.wornladder.engine;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.File;
import java.net.MalformedURLException;
import java.net.URI;
import java.net.URL;
import java.net.URLClassLoader;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.regex.Pattern;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.wornladder.TestLadder;

/** A program around the library has the drivers that it needs, and no others. */
class WithoutDriversTest {
  private static final Pattern DRIVERS =
      Pattern.compile(".*/(postgresql|mariadb|sqlite|h2|mongodb|bson)[^/]*\\.jar");

  @TempDir Path root;

  private static ClassLoader withoutDrivers() {
    String path =
        System.getProperty("surefire.test.class.path", System.getProperty("java.class.path"));
    URL[] left =
        Arrays.stream(path.split(File.pathSeparator))
            .filter(element -> !DRIVERS.matcher(element).matches())
            .map(element -> url(Path.of(element).toUri()))
            .toArray(URL[]::new);
    return new URLClassLoader(left, ClassLoader.getPlatformClassLoader());
  }

  private static URL url(URI place) {
    try {
      return place.toURL();
    } catch (MalformedURLException e) {
      throw new IllegalArgumentException(e);
    }
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "jdbc:sqlite:dev.db | sql",
        "jdbc:postgresql://db.hollowfield.example/harvest | sql",
        "jdbc:mariadb://db.hollowfield.example/harvest | sql",
        "jdbc:h2:./dev | sql",
        "jdbc:derby:dev | sql",
        "mongodb://db.hollowfield.example/harvest | json"
      })
  void filesAreExaminedWithoutTheDriver(String url, String form) throws Exception {
    TestLadder ladder =
        new TestLadder(root)
            .file(
                "ladder.yaml", "name: hollowfield\nenvironments:\n  dev: { url: '" + url + "' }\n");
    if (form.equals("json")) {
      ladder.file(
          "rungs/0001-bin.json", "{\"up\": {\"create\": \"bin\"}, \"down\": {\"drop\": \"bin\"}}");
    } else {
      ladder.rung("0001-bin", "CREATE TABLE bin (id int);", "DROP TABLE bin;");
    }
    Class<?> library = withoutDrivers().loadClass("org.wornladder.Ladder");
    Object report = library.getMethod("check", Path.class).invoke(null, root);
    assertThat(report.getClass().getMethod("isGood").invoke(report)).isEqualTo(true);
    assertThat(report.getClass().getMethod("rungs").invoke(report)).isEqualTo(1);
  }
}

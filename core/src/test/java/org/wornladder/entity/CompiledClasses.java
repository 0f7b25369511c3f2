package org.wornladder.entity;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import javax.tools.JavaCompiler;
import javax.tools.StandardJavaFileManager;
import javax.tools.ToolProvider;

/** Classes that a test writes and compiles. */
record CompiledClasses(Path folder) {
  /** Empties the folder, and compiles classes of the package {@code shop} into it. */
  CompiledClasses of(List<String> options, String... sources) {
    try {
      clear();
      Path texts = Files.createTempDirectory("shop");
      List<Path> files = new ArrayList<>();
      for (String source : sources) {
        String name =
            source.replaceFirst("(?s).*?\\b(?:class|enum|record|interface) (\\w+).*", "$1");
        files.add(
            Files.writeString(
                texts.resolve(name + ".java"),
                "package shop;\nimport jakarta.persistence.*;\nimport java.util.*;\n" + source));
      }
      List<String> all = new ArrayList<>(options);
      all.addAll(List.of("-d", folder.toString(), "-proc:none"));
      if (!options.contains("-cp")) {
        all.addAll(List.of("-cp", System.getProperty("java.class.path")));
      }
      JavaCompiler compiler = ToolProvider.getSystemJavaCompiler();
      try (StandardJavaFileManager manager = compiler.getStandardFileManager(null, null, null)) {
        assertThat(
                compiler
                    .getTask(
                        null, manager, null, all, null, manager.getJavaFileObjectsFromPaths(files))
                    .call())
            .isTrue();
      }
      return this;
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  CompiledClasses of(String... sources) {
    return of(List.of(), sources);
  }

  private void clear() throws IOException {
    Files.createDirectories(folder);
    try (Stream<Path> old = Files.walk(folder)) {
      for (Path file : old.filter(Files::isRegularFile).toList()) {
        Files.delete(file);
      }
    }
  }
}

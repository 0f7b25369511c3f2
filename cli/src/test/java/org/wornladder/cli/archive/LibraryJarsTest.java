package org.wornladder.cli.archive;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.jar.Attributes.Name;
import java.util.jar.JarFile;
import java.util.jar.JarOutputStream;
import java.util.jar.Manifest;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Jars in the form that starts fastest. */
class LibraryJarsTest {
  private static final String NOTICE = "META-INF/CHANGED-BY-WORN-LADDER.txt";
  private static final String ORCHARD = "org/wornladder/cli/archive/SampleOrchard.class";

  @TempDir Path folder;

  private Path jar(String name, String... files) throws IOException {
    Path jar = folder.resolve(name);
    try (OutputStream out = Files.newOutputStream(jar);
        ZipOutputStream zip = new ZipOutputStream(out)) {
      for (String file : files) {
        zip.putNextEntry(new ZipEntry(file));
        try (InputStream in = getClass().getResourceAsStream("/" + file)) {
          zip.write(in == null ? new byte[] {1, 2, 3} : in.readAllBytes());
        }
        zip.closeEntry();
      }
    }
    return jar;
  }

  private static List<String> names(Path jar) throws IOException {
    try (ZipFile file = new ZipFile(jar.toFile())) {
      assertThat(file.stream()).allMatch(entry -> entry.getMethod() == ZipEntry.STORED);
      return file.stream().map(ZipEntry::getName).toList();
    }
  }

  @Test
  void aJarWithLambdasHoldsThemAsClassesAndSaysSo() throws IOException {
    Path jar = jar("orchard.jar", "bins.txt", ORCHARD);
    LibraryJars.main(new String[] {folder.toString()});
    assertThat(names(jar))
        .containsExactly("bins.txt", ORCHARD.replace(".class", "$$Plain0.class"), ORCHARD, NOTICE);
  }

  @Test
  void aJarWithoutAnyStaysAsItIsAndSaysNothing() throws IOException {
    Path jar = jar("plain.jar", "bins.txt", "org/sqlite/native/Linux/lib.so");
    LibraryJars.main(new String[] {folder.toString()});
    assertThat(names(jar)).containsExactly("bins.txt");
  }

  @Test
  void doneTwiceItChangesNothing() throws IOException {
    Path jar = jar("orchard.jar", "bins.txt", ORCHARD, ShortCalls.LATE.get(1).of() + ".class");
    LibraryJars.main(new String[] {folder.toString()});
    List<String> once = names(jar);
    byte[] content = Files.readAllBytes(jar);
    LibraryJars.main(new String[] {folder.toString()});
    assertThat(names(jar)).containsExactlyElementsOf(once);
    assertThat(Arrays.mismatch(content, Files.readAllBytes(jar))).isEqualTo(-1);
  }

  @Test
  void aJarMayBeNamedByItself() throws IOException {
    Path jar = jar("orchard.jar", ORCHARD);
    Path other = jar("other.jar", ORCHARD);
    LibraryJars.main(new String[] {jar.toString()});
    assertThat(names(jar)).contains(NOTICE);
    try (ZipFile untouched = new ZipFile(other.toFile())) {
      assertThat(untouched.getEntry(NOTICE)).isNull();
    }
  }

  @Test
  void aManifestKeepsWhatJavaHeeds() throws IOException {
    Manifest manifest = new Manifest();
    manifest.getMainAttributes().put(Name.MANIFEST_VERSION, "1.0");
    manifest.getMainAttributes().put(Name.MAIN_CLASS, "org.wornladder.cli.Main");
    manifest.getMainAttributes().put(Name.IMPLEMENTATION_VENDOR, "Hollowfield Growers");
    Path jar = folder.resolve("orchard.jar");
    try (OutputStream out = Files.newOutputStream(jar)) {
      new JarOutputStream(out, manifest).close();
    }
    LibraryJars.main(new String[] {jar.toString()});
    try (JarFile brief = new JarFile(jar.toFile())) {
      assertThat(brief.getManifest().getMainAttributes())
          .containsOnlyKeys(Name.MANIFEST_VERSION, Name.MAIN_CLASS);
    }
  }
}

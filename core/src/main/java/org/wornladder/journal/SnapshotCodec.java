package org.wornladder.journal;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.Optional;
import java.util.zip.GZIPInputStream;
import java.util.zip.GZIPOutputStream;

/** Texts, compressed (RFC 1952), as letters that every database takes (RFC 4648, section 4). */
final class SnapshotCodec {
  private SnapshotCodec() {}

  static String pack(String text) {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    try (GZIPOutputStream out = new GZIPOutputStream(bytes)) {
      out.write(text.getBytes(StandardCharsets.UTF_8));
    } catch (IOException e) {
      throw new IllegalStateException("bytes in memory can always be written", e);
    }
    return Base64.getEncoder().encodeToString(bytes.toByteArray());
  }

  /** The text that was packed; empty if it was not packed here. */
  static Optional<String> unpack(String packed) {
    try (GZIPInputStream in =
        new GZIPInputStream(new ByteArrayInputStream(Base64.getDecoder().decode(packed)))) {
      return Optional.of(new String(in.readAllBytes(), StandardCharsets.UTF_8));
    } catch (IOException | IllegalArgumentException e) {
      return Optional.empty();
    }
  }
}

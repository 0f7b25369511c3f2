package org.wornladder.project;

import java.io.IOException;
import java.io.PushbackReader;
import java.io.Reader;

/**
 * The mark that some editors put in front of a text. A reader of JSON may ignore it (RFC 8259,
 * section 8.1); a blank stands for it, so that places stay what they are.
 */
final class ByteOrderMark {
  private static final char MARK = '\uFEFF';

  private ByteOrderMark() {}

  static String blanked(String text) {
    return text.indexOf(MARK) == 0 ? " " + text.substring(1) : text;
  }

  static Reader blanked(Reader text) throws IOException {
    PushbackReader reader = new PushbackReader(text);
    int first = reader.read();
    if (first >= 0) {
      reader.unread(first == MARK ? ' ' : first);
    }
    return reader;
  }
}

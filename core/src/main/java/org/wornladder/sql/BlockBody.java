package org.wornladder.sql;

/** {@code CREATE … kind … BEGIN [ATOMIC] … END}, in which only CASE … END nests. */
final class BlockBody extends Body {
  private final String kind;
  private final String otherKind;
  private final boolean atomic;
  private int words;
  private boolean create;
  private boolean made;
  private boolean afterBegin;
  private int depth;

  BlockBody(String kind, String otherKind, boolean atomic) {
    this.kind = kind;
    this.otherKind = otherKind;
    this.atomic = atomic;
  }

  @Override
  void accept(Lexer token) {
    words++;
    if (words == 1) {
      create = token.isWord("CREATE");
    } else if (create && !made) {
      // CREATE OR REPLACE TEMP TRIGGER: the kind stands among the first keywords.
      made = words <= 4 && (token.isWord(kind) || token.isWord(otherKind));
    } else if (made) {
      follow(token);
    }
  }

  private void follow(Lexer token) {
    if (depth > 0) {
      if (token.isWord("CASE")) {
        depth++;
      } else if (token.isWord("END")) {
        depth--;
      }
    } else if (atomic ? afterBegin && token.isWord("ATOMIC") : token.isWord("BEGIN")) {
      depth = 1;
    }
    afterBegin = token.isWord("BEGIN");
  }

  @Override
  boolean isOpen() {
    return depth > 0;
  }
}

package org.wornladder.sql;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.sql.Dialect.Trait;

/**
 * Reads SQL text token by token. The tokens follow each other without a gap: joined, they give the
 * text back, character for character.
 *
 * <p>Not for use by more than one thread. Beyond the current token it keeps what the shells of the
 * databases keep: the end mark that a {@code DELIMITER} line set, and whether the rows of a bulk
 * load come next.
 */
public final class Lexer {
  /** To be raised whenever a text is read into other tokens than before. */
  static final int VERSION = 2;

  private final String text;
  private final boolean nested;
  private final boolean hashComments;
  private final boolean slashComments;
  private final boolean dashesWantBlank;
  private final boolean executedComments;
  private final boolean escapeStrings;
  private final boolean dollarQuotes;
  private final boolean backQuotes;
  private final boolean brackets;
  private final boolean delimiterLines;
  private final boolean loads;

  private final Dialect dialect;
  private final ScriptModes modes;
  private final ShellCommands shell;
  private final boolean parenthesesHold;

  private String endMark = ";";
  private Body body;
  private int parentheses;
  private int statementStart;
  private Dialect statementDialect;
  private TokenKind kind = TokenKind.BLANK;
  private int start;
  private int end;
  private boolean statementOpen;
  private boolean copies;
  private boolean afterFrom;
  private boolean copiesFromInput;
  private boolean dataFollows;

  public Lexer(String text, Dialect dialect) {
    this.text = text;
    this.dialect = dialect;
    statementDialect = dialect;
    body = Body.in(dialect);
    parenthesesHold = dialect.has(Trait.PARENTHESES_HOLD);
    nested = dialect.has(Trait.NESTED_COMMENTS);
    hashComments = dialect.has(Trait.HASH_COMMENTS);
    slashComments = dialect.has(Trait.SLASH_COMMENTS);
    dashesWantBlank = dialect.has(Trait.DASHES_WANT_BLANK);
    executedComments = dialect.has(Trait.EXECUTED_COMMENTS);
    modes = new ScriptModes(dialect);
    shell = ShellCommands.of(dialect);
    escapeStrings = dialect.has(Trait.ESCAPE_STRINGS);
    dollarQuotes = dialect.has(Trait.DOLLAR_QUOTES);
    backQuotes = dialect.has(Trait.BACK_QUOTED_NAMES);
    brackets = dialect.has(Trait.BRACKETED_NAMES);
    delimiterLines = dialect.has(Trait.DELIMITER_LINES);
    loads = dialect.has(Trait.LOAD_DATA);
  }

  /** All tokens of a text, in order; {@link SqlTextException} where something never ends. */
  public static List<Token> tokens(String text, Dialect dialect) {
    Lexer lexer = new Lexer(text, dialect);
    List<Token> tokens = new ArrayList<>();
    while (lexer.advance()) {
      tokens.add(new Token(lexer.kind, lexer.start, lexer.end));
    }
    return List.copyOf(tokens);
  }

  /** Goes to the next token; false at the end of the text. */
  public boolean advance() {
    start = end;
    if (start >= text.length()) {
      return false;
    }
    if (dataFollows && start > 0 && text.charAt(start - 1) == '\n') {
      dataFollows = false;
      return take(TokenKind.LOAD_DATA, Scan.loadData(text, start));
    }
    if (text.startsWith(endMark, start) && !isHeld()) {
      return take(TokenKind.END, start + endMark.length());
    }
    read(text.charAt(start));
    if (kind.isMeaning() && kind != TokenKind.END && kind != TokenKind.DELIMITER_LINE) {
      goOn();
    }
    return true;
  }

  /** Whether a semicolon now stands inside the statement. */
  private boolean isHeld() {
    return !hasOwnEndMark() && (body.isOpen() || (parenthesesHold && parentheses > 0));
  }

  /** Whether the statement has a block that is not ended. */
  boolean isBlockOpen() {
    return body.isOpen() && !hasOwnEndMark();
  }

  private void goOn() {
    if (!statementOpen) {
      statementStart = start;
      statementDialect = modes.dialect();
    }
    if (loads) {
      watchForLoad();
    }
    if (isMark('(')) {
      parentheses++;
    } else if (isMark(')')) {
      parentheses = Math.max(0, parentheses - 1);
    }
    body.accept(this);
    statementOpen = true;
  }

  public TokenKind kind() {
    return kind;
  }

  public int start() {
    return start;
  }

  public int end() {
    return end;
  }

  /** Whether a {@code DELIMITER} line has set an end mark other than the semicolon. */
  public boolean hasOwnEndMark() {
    return !endMark.equals(";");
  }

  /** Whether the token is this word, in capitals or not; {@code word} is given in capitals. */
  public boolean isWord(String word) {
    return kind == TokenKind.WORD
        && end - start == word.length()
        && text.regionMatches(true, start, word, 0, word.length());
  }

  /** How the statement that is read, or was read last, is to be read alone. */
  Dialect statementDialect() {
    return statementDialect;
  }

  /** Whether the token is one of these words, in capitals or not. */
  boolean isOneOf(List<String> words) {
    return kind == TokenKind.WORD && words.stream().anyMatch(this::isWord);
  }

  /** Whether the token is this text. */
  boolean isText(String wanted) {
    return end - start == wanted.length() && text.startsWith(wanted, start);
  }

  /** Whether the token is this one character. */
  public boolean isMark(char mark) {
    return kind == TokenKind.MARK && end - start == 1 && text.charAt(start) == mark;
  }

  private void endStatement() {
    if (statementOpen) {
      modes.after(text.substring(statementStart, start));
    }
    body = Body.in(dialect);
    parentheses = 0;
    afterFrom = false;
    dataFollows = copiesFromInput;
    statementOpen = false;
    copies = false;
    copiesFromInput = false;
  }

  private boolean take(TokenKind taken, int to) {
    kind = taken;
    end = to;
    if (taken == TokenKind.END) {
      endStatement();
    }
    return true;
  }

  private void read(char c) {
    char next = start + 1 < text.length() ? text.charAt(start + 1) : '\0';
    Optional<ShellCommands.Found> command = shell.at(text, start, statementOpen);
    if (command.isPresent()) {
      take(command.get().kind(), command.get().end());
    } else if (Scan.isBlank(c)) {
      // Rows of a bulk load begin on the next line, whatever is there.
      int to = dataFollows ? afterLineEnd() : Scan.blanks(text, start);
      take(TokenKind.BLANK, to);
    } else if (Scan.startsWord(c)) {
      readWord(c, next);
    } else if (Scan.isDigit(c) || (c == '.' && Scan.isDigit(next))) {
      take(TokenKind.NUMBER, Scan.number(text, start));
    } else if (!readQuoted(c) && !readComment(c, next)) {
      take(TokenKind.MARK, markEnd());
    }
  }

  private int afterLineEnd() {
    int i = start;
    while (i < text.length() && Scan.isBlank(text.charAt(i))) {
      if (text.charAt(i++) == '\n') {
        break;
      }
    }
    return i;
  }

  private int markEnd() {
    int to = Scan.mark(text, start);
    for (int i = start + 1; i < to; i++) {
      if (text.startsWith(endMark, i)
          || (hashComments && text.charAt(i) == '#')
          || (backQuotes && text.charAt(i) == '`')) {
        return i;
      }
    }
    return to;
  }

  private void readWord(char c, char next) {
    if (next == '\'' && "bBeExXnN".indexOf(c) >= 0) {
      boolean escape = escapeStrings && (c == 'e' || c == 'E');
      int to = ended(Scan.quoted(text, start + 1, escape || modes.escapes()), "string");
      take(TokenKind.STRING, escape ? continued(to) : to);
      return;
    }
    if ((c == 'U' || c == 'u') && next == '&' && start + 2 < text.length()) {
      char quote = text.charAt(start + 2);
      if (quote == '\'' || quote == '"') {
        TokenKind quoted = quote == '"' ? TokenKind.QUOTED_NAME : TokenKind.STRING;
        take(quoted, ended(Scan.quoted(text, start + 2, false), "string"));
        return;
      }
    }
    take(TokenKind.WORD, wordEnd());
    if (delimiterLines && !statementOpen && isWord("DELIMITER")) {
      readDelimiterLine();
    }
  }

  private int wordEnd() {
    int to = Scan.word(text, start);
    if (endMark.indexOf('$') >= 0) {
      // A word may hold the sign that the end mark is made of.
      int mark = text.indexOf(endMark, start);
      return mark > start && mark < to ? mark : to;
    }
    return to;
  }

  private void watchForLoad() {
    if (!statementOpen) {
      copies = isWord("COPY");
    } else if (copies && parentheses == 0) {
      copiesFromInput |= afterFrom && isWord("STDIN");
      afterFrom = isWord("FROM");
    }
  }

  /**
   * A string goes on behind a line end, and a backslash escapes there too (PostgreSQL manual,
   * 4.1.2.1 "String Constants").
   */
  private int continued(int to) {
    int next = Scan.blanks(text, to);
    boolean goesOn =
        next < text.length()
            && text.charAt(next) == '\''
            && text.substring(to, next).contains("\n");
    return goesOn ? continued(ended(Scan.quoted(text, next, true), "string")) : to;
  }

  private void readDelimiterLine() {
    int to = Scan.line(text, start);
    String mark = endMarkIn(text.substring(end, to).strip());
    if (mark.isEmpty()) {
      throw SqlTextException.noEndMark(start);
    }
    endMark = mark;
    take(TokenKind.DELIMITER_LINE, to);
    statementOpen = false;
  }

  /** The first word, or what stands in quotes. */
  private static String endMarkIn(String words) {
    if (words.isEmpty()) {
      return words;
    }
    int close = words.indexOf(words.charAt(0), 1);
    return "'\"`".indexOf(words.charAt(0)) >= 0 && close > 0
        ? words.substring(1, close)
        : words.split("\\s", 2)[0];
  }

  private boolean readQuoted(char c) {
    if (c == '\'') {
      return take(TokenKind.STRING, ended(Scan.quoted(text, start, modes.escapes()), "string"));
    }
    if (c == '"') {
      int to = Scan.quoted(text, start, modes.escapesInDoubleQuotes());
      return take(TokenKind.QUOTED_NAME, ended(to, "quoted name"));
    }
    if (c == '`' && backQuotes) {
      return take(TokenKind.QUOTED_NAME, ended(Scan.quoted(text, start, false), "quoted name"));
    }
    if (c == '[' && brackets) {
      return take(TokenKind.QUOTED_NAME, ended(Scan.bracketed(text, start), "quoted name"));
    }
    if (c == '$' && dollarQuotes) {
      int tagEnd = Scan.dollarTag(text, start);
      if (tagEnd > start) {
        int to = Scan.dollarQuoted(text, start, tagEnd);
        return take(TokenKind.STRING, ended(to, "dollar-quoted string"));
      }
    }
    return false;
  }

  private boolean readComment(char c, char next) {
    if (c == '-' && next == '-' && (!dashesWantBlank || blankAt(start + 2))) {
      return take(TokenKind.LINE_COMMENT, Scan.line(text, start));
    }
    if ((c == '#' && hashComments) || (c == '/' && next == '/' && slashComments)) {
      return take(TokenKind.LINE_COMMENT, Scan.line(text, start));
    }
    if (c != '/' || next != '*') {
      return false;
    }
    char third = start + 2 < text.length() ? text.charAt(start + 2) : '\0';
    boolean executed =
        executedComments && (third == '!' || (third == 'M' && text.startsWith("!", start + 3)));
    boolean live = executed || third == '+' || third == '!';
    // An executed comment may hold plain ones, which do not end it.
    int to = ended(Scan.blockComment(text, start, nested || executed), "comment");
    return take(live ? TokenKind.LIVE_COMMENT : TokenKind.BLOCK_COMMENT, to);
  }

  private boolean blankAt(int offset) {
    return offset >= text.length() || Scan.isBlank(text.charAt(offset));
  }

  private int ended(int to, String what) {
    if (to < 0 || to > text.length()) {
      throw SqlTextException.unended(what, start);
    }
    return to;
  }
}

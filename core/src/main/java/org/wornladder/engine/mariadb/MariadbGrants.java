package org.wornladder.engine.mariadb;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collections;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;
import org.wornladder.schema.Kind;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Lexer;
import org.wornladder.sql.Token;
import org.wornladder.sql.TokenKind;

/**
 * Of which kinds of objects a user may see all that are there: what a user has no right on, the
 * information schema leaves out as if it were not there (MariaDB documentation, "Information
 * Schema", "GRANT", "SHOW GRANTS").
 */
final class MariadbGrants {
  private static final String ALL = "ALL PRIVILEGES";
  private static final String SELECT = "SELECT";

  /** Any of them shows a table. */
  private static final Set<String> OF_TABLES =
      Set.of(
          ALL,
          SELECT,
          "INSERT",
          "UPDATE",
          "DELETE",
          "CREATE",
          "DROP",
          "REFERENCES",
          "INDEX",
          "ALTER",
          "CREATE VIEW",
          "SHOW VIEW",
          "TRIGGER",
          "DELETE HISTORY");

  /** Any of them shows a routine, as does the right to read the server's own tables. */
  private static final Set<String> OF_ROUTINES =
      Set.of(ALL, "EXECUTE", "CREATE ROUTINE", "ALTER ROUTINE", "SHOW CREATE ROUTINE");

  /** {@code ER_OPTION_PREVENTS_STATEMENT}: nobody's rights are examined. */
  private static final int NOT_LOOKED_AT = 1290;

  /** {@code ER_NONEXISTING_GRANT}: there are none. */
  private static final int NONE = 1141;

  private final Set<String> rights = new HashSet<>();
  private boolean readsCatalogue;
  private boolean ofColumns;

  private MariadbGrants(List<String> grants, String database) {
    grants.forEach(grant -> take(grant, database));
  }

  /**
   * The kinds of which the session's user may not see all.
   *
   * @param database its name
   */
  static Set<Kind> unseen(Statement sql, String database) throws SQLException {
    List<String> grants = new ArrayList<>();
    try (ResultSet rows = sql.executeQuery("SHOW GRANTS")) {
      while (rows.next()) {
        grants.add(rows.getString(1));
      }
    } catch (SQLException e) {
      if (e.getErrorCode() == NOT_LOOKED_AT || e.getErrorCode() == NONE) {
        return Set.of();
      }
      throw e;
    }
    return unseen(grants, database);
  }

  /**
   * The same of what the server said.
   *
   * @param grants as {@code SHOW GRANTS} writes them, those of roles among them
   */
  static Set<Kind> unseen(List<String> grants, String database) {
    return new MariadbGrants(grants, database).unseen();
  }

  private Set<Kind> unseen() {
    EnumSet<Kind> unseen = EnumSet.noneOf(Kind.class);
    if (Collections.disjoint(rights, OF_TABLES)) {
      unseen.addAll(EnumSet.of(Kind.SEQUENCE, Kind.TABLE, Kind.VIEW));
      if (ofColumns) {
        unseen.addAll(EnumSet.range(Kind.COLUMN, Kind.INDEX));
      }
    }
    if (Collections.disjoint(rights, OF_ROUTINES) && !readsCatalogue) {
      unseen.addAll(EnumSet.of(Kind.FUNCTION, Kind.PROCEDURE, Kind.AGGREGATE, Kind.OTHER));
    }
    if (Collections.disjoint(rights, Set.of(ALL, "TRIGGER"))) {
      unseen.add(Kind.TRIGGER);
    }
    if (Collections.disjoint(rights, Set.of(ALL, "EVENT"))) {
      unseen.add(Kind.EVENT);
    }
    if (!readsCatalogue) {
      unseen.add(Kind.GRANT);
    }
    return unseen;
  }

  /** Takes what one grant gives; that of a role gives nothing by itself. */
  private void take(String grant, String database) {
    Set<String> granted = new HashSet<>();
    StringBuilder right = new StringBuilder();
    boolean onColumns = false;
    for (Token token : Lexer.tokens(grant, Dialects.MARIADB)) {
      String text = token.in(grant);
      if (token.kind() == TokenKind.WORD && text.equals("ON")) {
        granted.add(right.toString());
        take(granted, onColumns, grant.substring(token.end()).strip(), database);
        return;
      }
      if (token.kind() == TokenKind.WORD && !text.equals("GRANT")) {
        right.append(right.length() == 0 ? "" : " ").append(text);
      }
      if (text.equals(",")) {
        granted.add(right.toString());
        right.setLength(0);
      }
      onColumns |= text.equals("(");
    }
  }

  /** Takes what is granted on the whole database. */
  private void take(Set<String> granted, boolean onColumns, String on, String database) {
    ofColumns |= onColumns;
    if (covers(on, database)) {
      rights.addAll(granted);
    }
    readsCatalogue |= covers(on, "mysql") && (granted.contains(SELECT) || granted.contains(ALL));
  }

  /** Whether {@code *.*}, or the pattern of names in {@code `hollow%`.*}, is meant. */
  private static boolean covers(String on, String database) {
    if (on.startsWith("*.*")) {
      return true;
    }
    char quote = on.charAt(0);
    int end = on.indexOf(quote + ".* TO ", 1);
    if (quote != '`' && quote != '"' || end < 0) {
      return false;
    }
    String pattern = on.substring(1, end).replace("" + quote + quote, "" + quote);
    return Pattern.matches(regex(pattern), database);
  }

  private static String regex(String like) {
    StringBuilder regex = new StringBuilder("(?s)");
    for (int i = 0; i < like.length(); i++) {
      char sign = like.charAt(i);
      if (sign == '\\' && i + 1 < like.length()) {
        regex.append(Pattern.quote(like.substring(++i, i + 1)));
      } else if (sign == '%') {
        regex.append(".*");
      } else {
        regex.append(sign == '_' ? "." : Pattern.quote(String.valueOf(sign)));
      }
    }
    return regex.toString();
  }
}

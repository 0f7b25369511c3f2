package org.wornladder.engine.jdbc;

import java.sql.DatabaseMetaData;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Types;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.wornladder.engine.StorageTypes;
import org.wornladder.engine.ValueKind;

/**
 * The types that a driver names (JDBC 4.3, {@code DatabaseMetaData.getTypeInfo}).
 *
 * @param byName by the type's name in upper case
 */
record DriverTypes(Map<String, Type> byName) {
  /** Before a driver has said more. */
  static final DriverTypes STANDARD =
      new DriverTypes(
          Map.of(
              "BIGINT", new Type("BIGINT", Types.BIGINT, 19, ""),
              "INTEGER", new Type("INTEGER", Types.INTEGER, 10, ""),
              "VARCHAR", new Type("VARCHAR", Types.VARCHAR, 4000, "length"),
              "CLOB", new Type("CLOB", Types.CLOB, 0, "")));

  private static final int WORD = 64;
  private static final int LINE = 255;

  /** A length beyond which drivers mean that there is no limit. */
  private static final int UNLIMITED = 1 << 20;

  /**
   * One type.
   *
   * @param code of {@link Types}
   * @param precision the longest that it can be; 0 where the driver does not say
   * @param parameters what stands in parentheses behind it, as the driver names it; may be empty
   */
  record Type(String name, int code, int precision, String parameters) {
    /** The type with what stands in parentheses, which some engines put into its middle. */
    String of(long length, int scale) {
      String wanted = parameters.toLowerCase(Locale.ROOT);
      if (wanted.isEmpty() || length <= 0 || length >= Integer.MAX_VALUE) {
        return name.replace("()", "").replace("  ", " ");
      }
      boolean scaled = wanted.contains("scale") && !wanted.equals("scale");
      String inside = "(" + length + (scaled ? "," + scale : "") + ")";
      if (name.contains("()")) {
        return name.replace(" ()", inside).replace("()", inside);
      }
      int behind = name.indexOf(" FOR ");
      return behind < 0
          ? name + inside
          : name.substring(0, behind) + inside + name.substring(behind);
    }
  }

  static DriverTypes of(DatabaseMetaData metadata) throws SQLException {
    Map<String, Type> types = new LinkedHashMap<>();
    try (ResultSet rows = metadata.getTypeInfo()) {
      while (rows.next()) {
        String name = rows.getString("TYPE_NAME");
        String parameters = rows.getString("CREATE_PARAMS");
        types.putIfAbsent(
            name.toUpperCase(Locale.ROOT),
            new Type(
                name,
                rows.getInt("DATA_TYPE"),
                rows.getInt("PRECISION"),
                Optional.ofNullable(parameters).orElse("")));
      }
    }
    return new DriverTypes(types);
  }

  /** The first type of one of these codes, in their order. */
  private Optional<Type> first(int... codes) {
    for (int code : codes) {
      for (Type type : byName.values()) {
        if (type.code() == code) {
          return Optional.of(type);
        }
      }
    }
    return Optional.empty();
  }

  /**
   * The types of the tool's own tables; texts may be NULL, which some engines take for empty.
   *
   * @param options what stands behind a table's closing parenthesis; may be empty
   */
  StorageTypes storage(String options) {
    return new StorageTypes(
        number(Types.BIGINT, "BIGINT", 19),
        number(Types.INTEGER, "INTEGER", 10),
        text(WORD),
        text(LINE),
        script(),
        "",
        options);
  }

  private String number(int code, String standard, int digits) {
    return first(code)
        .map(Type::name)
        .or(() -> first(Types.DECIMAL, Types.NUMERIC).map(type -> type.name() + "(" + digits + ")"))
        .orElse(standard);
  }

  /** A text of limited length. */
  String text(int length) {
    return first(Types.VARCHAR, Types.NVARCHAR).map(Type::name).orElse("VARCHAR")
        + "("
        + length
        + ")";
  }

  private String script() {
    Optional<Type> large = first(Types.CLOB, Types.LONGVARCHAR, Types.NCLOB);
    return large.map(type -> type.name().replace("()", "").strip()).orElseGet(this::longestText);
  }

  /** The longest text that can be compared and cast to. */
  String longestText() {
    int most = first(Types.VARCHAR, Types.NVARCHAR).map(Type::precision).orElse(0);
    return text(most <= 0 || most > UNLIMITED ? UNLIMITED : most);
  }

  /**
   * A column's type as statements write it.
   *
   * @param name as the driver names it
   * @param code of {@link Types}
   */
  String written(String name, int code, long size, int scale) {
    Type known = byName.getOrDefault(name.toUpperCase(Locale.ROOT), new Type(name, code, 0, ""));
    return isLarge(known.code()) ? known.of(0, 0) : known.of(size, scale);
  }

  /** A large object, whose reported size is a limit, not a length. */
  private static boolean isLarge(int code) {
    return code == Types.CLOB
        || code == Types.NCLOB
        || code == Types.BLOB
        || code == Types.LONGVARCHAR
        || code == Types.LONGNVARCHAR
        || code == Types.LONGVARBINARY;
  }

  /** Whether values of a type cannot be compared as they are. */
  boolean isLarge(String type) {
    return isLarge(code(type));
  }

  private int code(String type) {
    String plain = type.replaceAll("\\s*\\([^)]*\\)", "").strip().toUpperCase(Locale.ROOT);
    for (String form :
        List.of(plain, plain.replaceFirst(" ", " () "), plain + " ()", plain + "()")) {
      if (byName.containsKey(form)) {
        return byName.get(form).code();
      }
    }
    return Types.OTHER;
  }

  /** What the values of a type are. */
  ValueKind kind(String type) {
    return switch (code(type)) {
      case Types.BIT, Types.BOOLEAN -> ValueKind.TRUTH;
      case Types.TINYINT, Types.SMALLINT, Types.INTEGER, Types.BIGINT -> ValueKind.WHOLE;
      case Types.NUMERIC, Types.DECIMAL -> ValueKind.DECIMAL;
      case Types.REAL, Types.FLOAT, Types.DOUBLE -> ValueKind.FLOATING;
      case Types.DATE -> ValueKind.DATE;
      case Types.TIME -> ValueKind.TIME;
      case Types.TIMESTAMP, Types.TIMESTAMP_WITH_TIMEZONE -> ValueKind.MOMENT;
      case Types.BINARY, Types.VARBINARY, Types.LONGVARBINARY, Types.BLOB -> ValueKind.BINARY;
      case Types.CHAR,
          Types.VARCHAR,
          Types.LONGVARCHAR,
          Types.CLOB,
          Types.NCHAR,
          Types.NVARCHAR,
          Types.LONGNVARCHAR,
          Types.NCLOB ->
          ValueKind.TEXT;
      default -> ValueKind.OTHER;
    };
  }
}

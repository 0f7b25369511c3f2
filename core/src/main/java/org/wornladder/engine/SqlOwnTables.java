package org.wornladder.engine;

import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.wornladder.sql.Place;
import org.wornladder.sql.Quoting;

/** The tool's own tables as SQL has them. */
public final class SqlOwnTables implements OwnTables {
  private final Session session;
  private final Engine engine;

  /**
   * @param session through which statements go
   */
  public SqlOwnTables(Session session, Engine engine) {
    this.session = session;
    this.engine = engine;
  }

  @Override
  public List<String> columns(String table) throws SQLException {
    List<String> columns = new ArrayList<>();
    String query = "SELECT * FROM " + session.quoted(table) + " WHERE 1 = 0";
    try (Statement sql = session.connection().createStatement();
        ResultSet row = sql.executeQuery(query)) {
      for (int i = 1; i <= row.getMetaData().getColumnCount(); i++) {
        columns.add(row.getMetaData().getColumnLabel(i).toLowerCase(Locale.ROOT));
      }
    }
    return columns;
  }

  @Override
  public void create(OwnTable table) throws SQLException {
    session.execute(
        new org.wornladder.sql.Statement(
            creation(table), Place.of(table.name()), engine.dialect()));
  }

  private String creation(OwnTable table) {
    StorageTypes types = engine.storage();
    List<String> lines = new ArrayList<>();
    for (OwnTable.OwnColumn column : table.columns()) {
      String key = lines.isEmpty() ? " PRIMARY KEY" : "";
      lines.add(
          "  "
              + session.ownColumn(column.name())
              + " "
              + type(column.content(), types)
              + key
              + (column.filled() && key.isEmpty() ? types.filled() : ""));
    }
    return "CREATE TABLE "
        + session.quoted(table.name())
        + " (\n"
        + String.join(",\n", lines)
        + "\n)"
        + types.options();
  }

  private static String type(OwnTable.Content content, StorageTypes types) {
    return switch (content) {
      case NUMBER -> types.number();
      case SMALL -> types.small();
      case WORD -> types.word();
      case TEXT -> types.text();
      case SCRIPT -> types.script();
    };
  }

  @Override
  public List<OwnRow> rows(OwnQuery query) throws SQLException {
    StringBuilder text = new StringBuilder("SELECT ").append(names(query.columns()));
    text.append(" FROM ").append(session.quoted(query.table()));
    List<Object> texts = new ArrayList<>();
    String word = " WHERE ";
    for (OwnQuery.Filter filter : query.filters()) {
      text.append(word).append(condition(filter, SqlOwnTables::place));
      filter.value().filter(value -> !(value instanceof Number)).ifPresent(texts::add);
      word = " AND ";
    }
    text.append(
        switch (query.order()) {
          case RISING -> " ORDER BY " + session.ownColumn(Session.NUMBER_COLUMN);
          case FALLING -> " ORDER BY " + session.ownColumn(Session.NUMBER_COLUMN) + " DESC";
          case ANY -> "";
        });
    query.limit().ifPresent(limit -> text.append(session.atMost(limit)));
    return read(text.toString(), texts, query.columns().size());
  }

  private List<OwnRow> read(String query, List<Object> texts, int columns) throws SQLException {
    if (texts.isEmpty()) {
      try (Statement sql = session.connection().createStatement();
          ResultSet rows = sql.executeQuery(query)) {
        return read(rows, columns);
      }
    }
    try (PreparedStatement sql = session.connection().prepareStatement(query)) {
      for (int i = 0; i < texts.size(); i++) {
        sql.setString(i + 1, texts.get(i).toString());
      }
      try (ResultSet rows = sql.executeQuery()) {
        return read(rows, columns);
      }
    }
  }

  private static List<OwnRow> read(ResultSet rows, int columns) throws SQLException {
    List<OwnRow> read = new ArrayList<>();
    while (rows.next()) {
      List<String> values = new ArrayList<>(columns);
      for (int i = 1; i <= columns; i++) {
        values.add(Optional.ofNullable(rows.getString(i)).orElse(""));
      }
      read.add(new OwnRow(values));
    }
    return read;
  }

  /**
   * @param written how a value stands in the statement
   */
  private String condition(OwnQuery.Filter filter, Function<Object, String> written) {
    String column = session.ownColumn(filter.column());
    String value = filter.value().map(written).orElse("");
    return switch (filter.comparison()) {
      case EQUAL -> column + " = " + value;
      case OTHER -> column + " <> " + value;
      case GREATER -> column + " > " + value;
      case FILLED -> session.isFilled(column);
    };
  }

  private String names(List<String> columns) {
    return columns.stream().map(session::ownColumn).collect(Collectors.joining(", "));
  }

  @Override
  public void insertNow(String table, SortedMap<String, Object> values) throws SQLException {
    session.change(
        "INSERT INTO %s (%s) VALUES (%s)"
            .formatted(
                session.quoted(table),
                names(List.copyOf(values.keySet())),
                values.values().stream().map(this::literal).collect(Collectors.joining(", "))));
  }

  private String literal(Object value) {
    Quoting quoting = engine.quoting();
    return value instanceof Number ? value.toString() : quoting.text(value.toString());
  }

  @Override
  public void amend(String table, SortedMap<String, Object> values, OwnQuery.Filter where)
      throws SQLException {
    List<String> set = new ArrayList<>();
    for (Map.Entry<String, Object> value : values.entrySet()) {
      set.add(session.ownColumn(value.getKey()) + " = " + literal(value.getValue()));
    }
    session.amend(
        "UPDATE %s SET %s WHERE %s"
            .formatted(
                session.quoted(table), String.join(", ", set), condition(where, this::literal)));
  }

  @Override
  public void delete(String table, OwnQuery.Filter where) throws SQLException {
    session.change(
        "DELETE FROM %s WHERE %s"
            .formatted(session.quoted(table), condition(where, this::literal)));
  }

  private static String place(Object value) {
    return value instanceof Number ? value.toString() : "?";
  }
}

package org.wornladder.engine.document;

import java.sql.SQLException;
import org.bson.BsonArray;
import org.bson.BsonDocument;
import org.bson.BsonInt32;
import org.bson.BsonString;
import org.bson.BsonValue;

/** What a server answers to a command that it took. */
final class DocumentReply {
  private DocumentReply() {}

  /**
   * @throws SQLException if some of its documents were refused, or most servers did not write them
   */
  static void check(BsonDocument reply) throws SQLException {
    BsonArray errors = reply.getArray("writeErrors", new BsonArray());
    if (!errors.isEmpty()) {
      BsonDocument first = errors.get(0).asDocument();
      throw new SQLException(
          "document "
              + (first.getNumber("index", new BsonInt32(0)).longValue() + 1)
              + " of the command: "
              + message(first)
              + (errors.size() > 1 ? ", and " + (errors.size() - 1) + " more" : ""),
          "42000",
          first.getNumber("code", new BsonInt32(0)).intValue());
    }
    BsonValue concern = reply.get("writeConcernError");
    if (concern != null) {
      throw new SQLException(
          "it is not known to be on most servers: " + message(concern.asDocument()), "42000");
    }
  }

  private static String message(BsonDocument error) {
    return error.getString("errmsg", new BsonString("")).getValue();
  }
}

package org.wornladder.engine.document;

import com.mongodb.MongoException;
import com.mongodb.client.MongoCollection;
import com.mongodb.client.model.Filters;
import com.mongodb.client.model.UpdateOptions;
import com.mongodb.client.model.Updates;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import org.bson.BsonDocument;
import org.bson.BsonInt64;
import org.bson.BsonString;
import org.bson.conversions.Bson;
import org.wornladder.engine.LeaseStore;

/** The lease as the one document of a collection. */
record DocumentLease(DocumentConnection connection, boolean closes) implements LeaseStore {
  static final String NAME = "ladder_lock";

  private static final int DUPLICATE_KEY = 11000;
  private static final Lease FREE = new Lease("", 0, 0);

  private MongoCollection<BsonDocument> collection() {
    return connection.collection(NAME);
  }

  /** Makes the document, unless another process did. */
  void make() throws SQLException {
    Bson free =
        Updates.combine(
            Updates.setOnInsert("holder", new BsonString("")),
            Updates.setOnInsert("fence", new BsonInt64(0)),
            Updates.setOnInsert("beat", new BsonInt64(0)),
            Updates.setOnInsert("taken_over_from", new BsonString("")));
    try {
      collection().updateOne(Filters.eq("_id", 1), free, new UpdateOptions().upsert(true));
    } catch (MongoException e) {
      if (e.getCode() != DUPLICATE_KEY) {
        throw DocumentErrors.sql(e);
      }
    }
  }

  @Override
  public Lease read() throws SQLException {
    List<BsonDocument> found =
        DocumentConnection.driver(
            () -> collection().find(Filters.eq("_id", 1)).into(new ArrayList<BsonDocument>()));
    return found.isEmpty()
        ? FREE
        : new Lease(
            found.get(0).getString("holder", new BsonString("")).getValue(),
            found.get(0).getNumber("fence", new BsonInt64(0)).longValue(),
            found.get(0).getNumber("beat", new BsonInt64(0)).longValue());
  }

  private boolean changeIf(long fence, Bson change) throws SQLException {
    Bson unchanged = Filters.and(Filters.eq("_id", 1), Filters.eq("fence", new BsonInt64(fence)));
    return DocumentConnection.driver(() -> collection().updateOne(unchanged, change))
            .getMatchedCount()
        == 1;
  }

  @Override
  public boolean take(Lease was, String holder) throws SQLException {
    return changeIf(
        was.fence(),
        Updates.combine(
            Updates.set("holder", new BsonString(holder)),
            Updates.set("fence", new BsonInt64(was.fence() + 1)),
            Updates.set("beat", new BsonInt64(0)),
            Updates.set("taken_over_from", new BsonString(was.holder()))));
  }

  @Override
  public boolean beat(long fence) throws SQLException {
    return changeIf(fence, Updates.inc("beat", 1L));
  }

  @Override
  public void release(long fence) throws SQLException {
    changeIf(fence, Updates.set("holder", new BsonString("")));
  }

  @Override
  public void close() {
    if (closes) {
      connection.close();
    }
  }
}

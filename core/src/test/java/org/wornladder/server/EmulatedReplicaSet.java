package org.wornladder.server;

import com.mongodb.client.MongoClient;
import com.mongodb.client.MongoClients;
import com.mongodb.client.MongoCollection;
import com.mongodb.client.MongoDatabase;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.bson.BsonArray;
import org.bson.BsonBoolean;
import org.bson.BsonDocument;
import org.bson.BsonInt32;
import org.bson.BsonString;
import org.bson.BsonValue;

/**
 * Makes a server without transactions answer like the primary one of a replica set: what it does in
 * a transaction is undone if that is not committed, and what the manual does not allow there
 * ("Transactions and Operations") is refused. Others see what is not committed, unlike there.
 */
public final class EmulatedReplicaSet implements AutoCloseable {
  private static final Set<String> ALLOWED =
      Set.of("insert", "update", "delete", "findAndModify", "find", "aggregate", "getMore");

  private static final List<String> OF_SESSIONS =
      List.of("lsid", "txnNumber", "autocommit", "startTransaction");

  private static final int TOO_LATE = 50;
  private static final int INVALID_OPTIONS = 72;
  private static final int NO_SUCH_TRANSACTION = 251;
  private static final int NOT_IN_TRANSACTIONS = 263;
  private static final String TRANSIENT = "TransientTransactionError";

  /** What is sent to the server itself. */
  interface Server {
    DocumentMessage reply(DocumentMessage request) throws IOException;
  }

  /** What the collections held that a transaction touched; empty for one that was not there. */
  private record Open(Map<String, Optional<List<BsonDocument>>> before) {}

  private final MongoClient client;
  private final Map<BsonValue, Open> transactions = new HashMap<>();
  private Optional<BsonDocument> refusal = Optional.empty();
  private int refusals;
  private boolean commitsUnheard;

  public EmulatedReplicaSet(int port) {
    client = MongoClients.create("mongodb://127.0.0.1:" + port);
  }

  /** Answers the first commands of transactions to come with an error, and undoes those. */
  public synchronized void refuse(int times, int code, String message, List<String> labels) {
    refusals = times;
    refusal = Optional.of(error(code, message, labels));
  }

  /** From now on commits take effect, and what is answered does not say so. */
  public synchronized void commitUnheard(boolean unheard) {
    commitsUnheard = unheard;
  }

  synchronized DocumentMessage reply(DocumentMessage request, Server server) throws IOException {
    BsonDocument command = request.body();
    String name = command.getFirstKey();
    if (name.equalsIgnoreCase("isMaster") || name.equals("hello")) {
      return request.answer(hello());
    }
    BsonDocument plain = command.clone();
    OF_SESSIONS.forEach(plain::remove);
    if (!command.containsKey("autocommit")) {
      return server.reply(request.with(plain));
    }
    BsonValue session = command.get("lsid");
    if (command.containsKey("startTransaction")) {
      transactions.put(session, new Open(new LinkedHashMap<>()));
      plain.remove("readConcern");
    }
    Open open = transactions.get(session);
    Optional<BsonDocument> refused = open == null ? Optional.of(gone()) : refusal(name, plain);
    if (refused.isPresent()) {
      abort(session);
      return request.answer(refused.get());
    }
    if (name.equals("commitTransaction")) {
      transactions.remove(session);
      return request.answer(commitsUnheard ? unknown() : ok());
    }
    if (name.equals("abortTransaction")) {
      abort(session);
      return request.answer(ok());
    }
    touch(open, plain);
    DocumentMessage reply = server.reply(request.with(plain));
    if (isFailure(reply.body())) {
      abort(session);
    }
    return reply;
  }

  private static BsonDocument hello() {
    return ok().append("isWritablePrimary", BsonBoolean.TRUE)
        .append("ismaster", BsonBoolean.TRUE)
        .append("helloOk", BsonBoolean.TRUE)
        .append("setName", new BsonString("rs0"))
        .append("logicalSessionTimeoutMinutes", new BsonInt32(30))
        .append("maxBsonObjectSize", new BsonInt32(16 << 20))
        .append("maxMessageSizeBytes", new BsonInt32(48_000_000))
        .append("maxWriteBatchSize", new BsonInt32(100_000))
        .append("minWireVersion", new BsonInt32(0))
        .append("maxWireVersion", new BsonInt32(21));
  }

  private static BsonDocument ok() {
    return new BsonDocument("ok", new BsonInt32(1));
  }

  private static BsonDocument unknown() {
    List<String> labels = List.of("UnknownTransactionCommitResult");
    return error(TOO_LATE, "operation exceeded time limit", labels);
  }

  private static BsonDocument gone() {
    return error(NO_SUCH_TRANSACTION, "Transaction has been aborted.", List.of(TRANSIENT));
  }

  private static BsonDocument error(int code, String message, List<String> labels) {
    BsonArray all = new BsonArray(labels.stream().map(BsonString::new).toList());
    return new BsonDocument("ok", new BsonInt32(0))
        .append("code", new BsonInt32(code))
        .append("errmsg", new BsonString(message))
        .append("errorLabels", all);
  }

  private Optional<BsonDocument> refusal(String name, BsonDocument command) {
    boolean ends = name.equals("commitTransaction") || name.equals("abortTransaction");
    if (!ends && !ALLOWED.contains(name)) {
      String message = "Cannot run '" + name + "' in a multi-document transaction.";
      return Optional.of(error(NOT_IN_TRANSACTIONS, message, List.of()));
    }
    if (!ends && (command.containsKey("writeConcern") || command.containsKey("readConcern"))) {
      return Optional.of(
          error(INVALID_OPTIONS, "concerns are those of the transaction", List.of()));
    }
    return !ends && refusals-- > 0 ? refusal : Optional.empty();
  }

  private static boolean isFailure(BsonDocument reply) {
    return reply.getNumber("ok").intValue() != 1 || reply.containsKey("writeErrors");
  }

  private void touch(Open open, BsonDocument command) {
    MongoDatabase database = client.getDatabase(command.getString("$db").getValue());
    String name = command.getString(command.getFirstKey()).getValue();
    String place = database.getName() + " " + name;
    if (!open.before().containsKey(place)) {
      boolean there = database.listCollectionNames().into(new ArrayList<>()).contains(name);
      open.before()
          .put(
              place,
              there
                  ? Optional.of(collection(database, name).find().into(new ArrayList<>()))
                  : Optional.empty());
    }
  }

  private static MongoCollection<BsonDocument> collection(MongoDatabase database, String name) {
    return database.getCollection(name, BsonDocument.class);
  }

  /** Undoes the transactions of clients that are gone. */
  synchronized void abortAll() {
    List.copyOf(transactions.keySet()).forEach(this::abort);
  }

  /** Undoes the transactions that some commands began. */
  synchronized void abortThoseOf(List<BsonDocument> commands) {
    commands.stream()
        .filter(command -> command.containsKey("startTransaction"))
        .forEach(command -> abort(command.get("lsid")));
  }

  @Override
  public void close() {
    client.close();
  }

  private void abort(BsonValue session) {
    Open open = transactions.remove(session);
    if (open != null) {
      open.before().forEach(this::restore);
    }
  }

  private void restore(String place, Optional<List<BsonDocument>> before) {
    String[] names = place.split(" ", 2);
    MongoCollection<BsonDocument> collection = collection(client.getDatabase(names[0]), names[1]);
    if (before.isEmpty()) {
      collection.drop();
      return;
    }
    collection.deleteMany(new BsonDocument());
    if (!before.get().isEmpty()) {
      collection.insertMany(before.get());
    }
  }
}

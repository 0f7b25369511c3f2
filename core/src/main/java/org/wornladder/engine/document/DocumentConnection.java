package org.wornladder.engine.document;

import com.mongodb.ConnectionString;
import com.mongodb.MongoClientSettings;
import com.mongodb.MongoException;
import com.mongodb.ReadConcern;
import com.mongodb.ReadPreference;
import com.mongodb.TransactionOptions;
import com.mongodb.WriteConcern;
import com.mongodb.client.ClientSession;
import com.mongodb.client.FindIterable;
import com.mongodb.client.MongoClient;
import com.mongodb.client.MongoClients;
import com.mongodb.client.MongoCollection;
import com.mongodb.client.MongoDatabase;
import com.mongodb.client.model.Filters;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;
import org.bson.BSONException;
import org.bson.BsonArray;
import org.bson.BsonDocument;
import org.bson.BsonInt32;
import org.bson.BsonString;
import org.bson.BsonValue;
import org.bson.conversions.Bson;
import org.wornladder.engine.ConnectionAttempts;
import org.wornladder.project.Environment;

/**
 * One database of a deployment. Everything is read from its primary server, and written to most of
 * its servers.
 */
final class DocumentConnection implements AutoCloseable {
  private static final String RENAME = "renameCollection";
  private static final String ADMIN = "admin";

  private final MongoClient client;
  private final MongoDatabase database;
  private boolean hasTransactions;
  private Optional<ClientSession> transaction = Optional.empty();

  private DocumentConnection(MongoClient client, String database) {
    this.client = client;
    this.database =
        client
            .getDatabase(database)
            .withReadPreference(ReadPreference.primary())
            .withReadConcern(ReadConcern.MAJORITY)
            .withWriteConcern(WriteConcern.MAJORITY);
  }

  /**
   * Connects.
   *
   * @throws SQLException if no server answers, or the url cannot be used
   */
  static DocumentConnection open(Environment environment) throws SQLException {
    ConnectionString url = DocumentUrl.of(environment);
    MongoClientSettings.Builder settings = MongoClientSettings.builder().applyConnectionString(url);
    if (url.getServerSelectionTimeout() == null) {
      settings.applyToClusterSettings(
          cluster ->
              cluster.serverSelectionTimeout(ConnectionAttempts.ANSWER_SECONDS, TimeUnit.SECONDS));
    }
    if (url.getConnectTimeout() == null) {
      settings.applyToSocketSettings(
          socket -> socket.connectTimeout(ConnectionAttempts.ANSWER_SECONDS, TimeUnit.SECONDS));
    }
    MongoClient client = MongoClients.create(settings.build());
    DocumentConnection connection = new DocumentConnection(client, url.getDatabase());
    try {
      connection.hasTransactions = connection.deployment().hasTransactions();
      return connection;
    } catch (SQLException | RuntimeException e) {
      client.close();
      throw e;
    }
  }

  MongoCollection<BsonDocument> collection(String name) {
    return database.getCollection(name, BsonDocument.class);
  }

  /** What the servers say of themselves. */
  private Deployment deployment() throws SQLException {
    try {
      return new Deployment(run(new BsonDocument("hello", new BsonInt32(1))));
    } catch (SQLException e) {
      if (DocumentErrors.isUnknownCommand(e)) {
        // The server is older than the command, and than all that is asked for here.
        return new Deployment(new BsonDocument());
      }
      throw e;
    }
  }

  boolean hasTransactions() {
    return hasTransactions;
  }

  boolean isInTransaction() {
    return transaction.isPresent();
  }

  /** Begins a transaction; none is open. */
  void beginTransaction() throws SQLException {
    ClientSession session = driver(() -> client.startSession());
    session.startTransaction(
        TransactionOptions.builder()
            .readPreference(ReadPreference.primary())
            .readConcern(ReadConcern.SNAPSHOT)
            .writeConcern(WriteConcern.MAJORITY)
            .build());
    transaction = Optional.of(session);
  }

  /** Commits the transaction that is open. */
  void commitTransaction() throws SQLException {
    ClientSession session = transaction.orElseThrow();
    driver(
        () -> {
          session.commitTransaction();
          return session;
        });
    session.close();
    transaction = Optional.empty();
  }

  /** Undoes the transaction that is open, if one is. */
  void abortTransaction() {
    // Closing the session aborts it; whatever the server answers, it cannot be committed any more.
    transaction.ifPresent(ClientSession::close);
    transaction = Optional.empty();
  }

  /** Runs a command outside of a transaction; its reply may still hold write errors. */
  BsonDocument run(BsonDocument command) throws SQLException {
    return command.containsKey(RENAME)
        ? rename(command)
        : driver(() -> database.runCommand(command, BsonDocument.class));
  }

  /** Runs a command in the transaction that is open; its reply may still hold write errors. */
  BsonDocument runInTransaction(BsonDocument command) throws SQLException {
    ClientSession session = transaction.orElseThrow();
    return driver(
        () -> database.runCommand(session, command, ReadPreference.primary(), BsonDocument.class));
  }

  /** Adds documents, in the transaction if one is open. */
  void insert(String collection, List<BsonDocument> documents) throws SQLException {
    MongoCollection<BsonDocument> into = collection(collection);
    driver(
        () ->
            transaction.isPresent()
                ? into.insertMany(transaction.get(), documents)
                : into.insertMany(documents));
  }

  /** The documents that a filter lets through, as the transaction sees them if one is open. */
  FindIterable<BsonDocument> find(String collection, Bson filter) {
    MongoCollection<BsonDocument> in = collection(collection);
    return transaction.isPresent() ? in.find(transaction.get(), filter) : in.find(filter);
  }

  /** It is a command of another database, and takes names with that of theirs in front. */
  private BsonDocument rename(BsonDocument command) throws SQLException {
    BsonDocument whole = command.clone();
    for (String key : List.of(RENAME, "to")) {
      BsonValue name = command.get(key);
      if (name != null && name.isString()) {
        whole.put(key, new BsonString(database.getName() + "." + name.asString().getValue()));
      }
    }
    return driver(() -> client.getDatabase(ADMIN).runCommand(whole, BsonDocument.class));
  }

  /** What the driver does, with its failures as the program knows them. */
  static <T> T driver(Supplier<T> work) throws SQLException {
    try {
      return work.get();
    } catch (MongoException e) {
      throw DocumentErrors.sql(e);
    } catch (BSONException e) {
      // Such as a document over the size limit, which is never sent.
      throw new SQLException(e.getMessage(), "42000", e);
    }
  }

  /** The collections and views as the database lists them, but for its own. */
  List<BsonDocument> collections() throws SQLException {
    List<BsonDocument> all =
        driver(
            () -> database.listCollections(BsonDocument.class).into(new ArrayList<BsonDocument>()));
    all.removeIf(one -> name(one).startsWith("system."));
    return all;
  }

  /** A collection or view as the database lists it; empty if it is not there. */
  Optional<BsonDocument> collectionNamed(String name) throws SQLException {
    return driver(
            () ->
                database
                    .listCollections(BsonDocument.class)
                    .filter(Filters.eq("name", name))
                    .into(new ArrayList<BsonDocument>()))
        .stream()
        .filter(one -> name(one).equals(name))
        .findFirst();
  }

  /** The name of what a listing describes. */
  static String name(BsonDocument listed) {
    return listed.getString("name", new BsonString("")).getValue();
  }

  /** The indexes of a collection as the database lists them. */
  List<BsonDocument> indexes(String collection) throws SQLException {
    return driver(
        () -> collection(collection).listIndexes(BsonDocument.class).into(new ArrayList<>()));
  }

  /** What a command lists under a key of its reply. */
  List<BsonDocument> listed(BsonDocument command, String key) throws SQLException {
    BsonArray all = run(command).getArray(key, new BsonArray());
    return all.stream().map(BsonValue::asDocument).toList();
  }

  @Override
  public void close() {
    abortTransaction();
    client.close();
  }
}

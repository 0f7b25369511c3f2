package org.wornladder.server;

import com.mongodb.client.MongoClient;
import com.mongodb.client.MongoClients;
import com.mongodb.client.MongoDatabase;
import de.bwaldvogel.mongo.MongoServer;
import de.bwaldvogel.mongo.backend.memory.MemoryBackend;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;
import org.bson.BsonDocument;

/** A document server in this process, with a database for each test. */
public final class DocumentServer {
  private static final MongoServer SERVER = new MongoServer(new MemoryBackend());
  private static final int PORT = SERVER.bind().getPort();
  private static final MongoClient CLIENT = MongoClients.create("mongodb://127.0.0.1:" + PORT);
  private static final AtomicInteger NAMES = new AtomicInteger();

  private final String name = "harvest_" + NAMES.incrementAndGet();

  /** Where the server listens on this machine. */
  public static int port() {
    return PORT;
  }

  public String url() {
    return url(PORT);
  }

  /** The url by another port. */
  public String url(int port) {
    return "mongodb://127.0.0.1:" + port + "/" + name;
  }

  /** The url by another port, behind which a server that does not answer is given up soon. */
  public String impatientUrl(int port) {
    return url(port) + "?serverSelectionTimeoutMS=100";
  }

  public MongoDatabase database() {
    return CLIENT.getDatabase(name);
  }

  /** Runs a command on the database, past the program under test. */
  public BsonDocument run(String command) {
    return database().runCommand(BsonDocument.parse(command), BsonDocument.class);
  }

  public List<BsonDocument> documents(String collection) {
    return database().getCollection(collection, BsonDocument.class).find().into(new ArrayList<>());
  }

  /** Collections with their indexes, and the number of their documents. */
  public Map<String, List<String>> everything() {
    Map<String, List<String>> all = new java.util.TreeMap<>();
    for (String collection : database().listCollectionNames()) {
      if (!collection.startsWith("ladder_")) {
        List<String> said = new ArrayList<>();
        database()
            .getCollection(collection)
            .listIndexes()
            .forEach(index -> said.add(index.toJson()));
        said.sort(null);
        said.add(documents(collection).size() + " documents");
        all.put(collection, said);
      }
    }
    return all;
  }
}

package org.wornladder.bench;

import com.mongodb.WriteConcern;
import com.mongodb.client.MongoClient;
import com.mongodb.client.MongoClients;
import com.mongodb.client.MongoCollection;
import com.mongodb.client.MongoDatabase;
import java.io.BufferedReader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.bson.BsonDocument;
import org.bson.BsonInt64;
import org.bson.BsonString;

/** What the driver alone takes for the commands and inserts that a program must send. */
public final class DocumentReference {
  private static final int ENTRIES_A_RUNG = 4;
  private static final int AT_ONCE = 1_000;

  private DocumentReference() {}

  /**
   * @param args the server, a database, and either {@code rungs} and how many, or {@code seed} and
   *     a file with a document in each line
   */
  public static void main(String[] args) throws Exception {
    try (MongoClient client = MongoClients.create(args[0])) {
      MongoDatabase database = client.getDatabase(args[1]).withWriteConcern(WriteConcern.MAJORITY);
      if (args[2].equals("rungs")) {
        rungs(database, Integer.parseInt(args[3]));
      } else {
        seed(database, Path.of(args[3]));
      }
    }
  }

  private static void rungs(MongoDatabase database, int count) {
    MongoCollection<BsonDocument> journal = database.getCollection("journal", BsonDocument.class);
    long number = 0;
    for (int i = 1; i <= count; i++) {
      database.runCommand(new BsonDocument("create", new BsonString("bin_" + i)));
      for (int entry = 0; entry < ENTRIES_A_RUNG; entry++) {
        journal.insertOne(
            new BsonDocument("_id", new BsonInt64(++number))
                .append("at", new BsonString("2026-11-23T07:14:38.042Z"))
                .append("event", new BsonString("statement-done"))
                .append("rung", new BsonInt64(i))
                .append("hash", new BsonString("0".repeat(64))));
      }
    }
  }

  private static void seed(MongoDatabase database, Path file) throws Exception {
    MongoCollection<BsonDocument> bins = database.getCollection("bin", BsonDocument.class);
    List<BsonDocument> batch = new ArrayList<>();
    try (BufferedReader lines = Files.newBufferedReader(file)) {
      for (String line = lines.readLine(); line != null; line = lines.readLine()) {
        if (line.startsWith("{")) {
          batch.add(BsonDocument.parse(line));
        }
        if (batch.size() == AT_ONCE) {
          bins.insertMany(batch);
          batch.clear();
        }
      }
    }
    if (!batch.isEmpty()) {
      bins.insertMany(batch);
    }
  }
}

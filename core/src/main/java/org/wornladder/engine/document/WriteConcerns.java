package org.wornladder.engine.document;

import org.bson.BsonArray;
import org.bson.BsonDocument;
import org.bson.BsonString;
import org.bson.BsonValue;

/** On how many servers an effect must be before it counts (the manual's "Write Concern"). */
final class WriteConcerns {
  private WriteConcerns() {}

  /**
   * The command with the wish that most servers have what it did before it is answered, unless it
   * says itself how many.
   */
  static BsonDocument onMostServers(BsonDocument command) {
    boolean writes =
        DocumentCommands.isWriting(command.getFirstKey()) || isWritingPipeline(command);
    return writes && !command.containsKey(DocumentCommands.WRITE_CONCERN)
        ? command
            .clone()
            .append(
                DocumentCommands.WRITE_CONCERN, new BsonDocument("w", new BsonString("majority")))
        : command;
  }

  /** Whether the last stage of an aggregation writes what it comes to. */
  private static boolean isWritingPipeline(BsonDocument command) {
    BsonValue stages = command.get("pipeline");
    if (!command.getFirstKey().equals(DocumentCommands.AGGREGATE)
        || stages == null
        || !stages.isArray()) {
      return false;
    }
    BsonArray pipeline = stages.asArray();
    BsonValue last = pipeline.isEmpty() ? new BsonDocument() : pipeline.get(pipeline.size() - 1);
    return last.isDocument()
        && (last.asDocument().containsKey("$merge") || last.asDocument().containsKey("$out"));
  }
}

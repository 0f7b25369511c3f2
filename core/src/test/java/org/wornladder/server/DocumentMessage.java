package org.wornladder.server;

import java.io.DataInputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import org.bson.BsonBinaryReader;
import org.bson.BsonBinaryWriter;
import org.bson.BsonDocument;
import org.bson.codecs.BsonDocumentCodec;
import org.bson.codecs.DecoderContext;
import org.bson.codecs.EncoderContext;
import org.bson.io.BasicOutputBuffer;

/**
 * A message of the document databases' protocol (its manual, "Wire Protocol").
 *
 * @param bytes all of it, header and length included
 */
record DocumentMessage(byte[] bytes) {
  private static final int HEADER = 16;

  /** The code of requests and replies of today. */
  private static final int MESSAGE = 2013;

  /** The codes of a first request, by which client and server get to know each other. */
  private static final int QUERY = 2004;

  private static final int REPLY = 1;

  private static final BsonDocumentCodec CODEC = new BsonDocumentCodec();

  static DocumentMessage read(DataInputStream in) throws IOException {
    byte[] length = new byte[4];
    in.readFully(length);
    byte[] whole = new byte[buffer(length).getInt()];
    System.arraycopy(length, 0, whole, 0, length.length);
    in.readFully(whole, length.length, whole.length - length.length);
    return new DocumentMessage(whole);
  }

  private static ByteBuffer buffer(byte[] bytes) {
    return ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN);
  }

  private int code() {
    return buffer(bytes).getInt(12);
  }

  /** Where its document begins: behind flags, and what says what stands there. */
  private int start() {
    if (code() != QUERY) {
      return code() == REPLY ? HEADER + 20 : HEADER + 5;
    }
    int end = HEADER + 4;
    while (bytes[end] != 0) {
      end++;
    }
    return end + 1 + 8;
  }

  private int end() {
    return start() + buffer(bytes).getInt(start());
  }

  /**
   * The first document: the command or its reply. The documents of an insert command are in a
   * section of their own behind it, and are not included.
   */
  BsonDocument body() {
    ByteBuffer document = ByteBuffer.wrap(bytes, start(), end() - start()).slice();
    try (BsonBinaryReader reader = new BsonBinaryReader(document)) {
      return CODEC.decode(reader, DecoderContext.builder().build());
    }
  }

  /** The same message with another command. */
  DocumentMessage with(BsonDocument body) {
    byte[] document = encoded(body);
    ByteBuffer whole = buffer(new byte[bytes.length - (end() - start()) + document.length]);
    whole.put(bytes, 0, start()).put(document).put(bytes, end(), bytes.length - end());
    whole.putInt(0, whole.capacity());
    return new DocumentMessage(whole.array());
  }

  /** What answers this message. */
  DocumentMessage answer(BsonDocument body) {
    byte[] document = encoded(body);
    boolean first = code() == QUERY;
    int before = HEADER + (first ? 20 : 5);
    ByteBuffer whole = buffer(new byte[before + document.length]);
    whole.putInt(whole.capacity()).putInt(0).putInt(buffer(bytes).getInt(4));
    whole.putInt(first ? REPLY : MESSAGE);
    if (first) {
      whole.putInt(0).putLong(0).putInt(0).putInt(1);
    }
    whole.position(before);
    whole.put(document);
    return new DocumentMessage(whole.array());
  }

  private static byte[] encoded(BsonDocument body) {
    BasicOutputBuffer out = new BasicOutputBuffer();
    try (BsonBinaryWriter writer = new BsonBinaryWriter(out)) {
      CODEC.encode(writer, body, EncoderContext.builder().build());
    }
    return out.toByteArray();
  }
}

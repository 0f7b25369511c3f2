package org.wornladder.cli.archive;

import java.io.ByteArrayOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.util.Base64;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import javax.crypto.Mac;
import javax.crypto.SecretKeyFactory;
import javax.crypto.spec.PBEKeySpec;
import javax.crypto.spec.SecretKeySpec;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Place;
import org.wornladder.sql.Splitter;
import org.wornladder.sql.Statement;

/**
 * Plays a PostgreSQL server for one connection at a time, as far as it takes to load what a
 * connection and a structure need: the password is proven (RFC 5802, RFC 7677), the session's facts
 * are told, the lock is given, the catalogue holds one thing of every common sort, each named 1,
 * and the journal nothing (PostgreSQL manual, "Frontend/Backend Protocol").
 */
final class PretendPostgres implements AutoCloseable {
  static final String PASSWORD = "pretended";

  private static final int SSL_REQUEST = 80_877_103;
  private static final int ROUNDS = 4096;
  private static final int KEY_BITS = 256;
  private static final int TEXT_TYPE = 25;
  private static final int TEXTS_TYPE = 1009;
  private static final int COLUMNS = 20;

  /** Where the catalogue's answer for an index says nothing if it is a plain one. */
  private static final int INDEX_DEFINITION = 8;

  /** Where its answer for a reference tells several columns. */
  private static final int TARGET_COLUMNS = 4;

  private static final String MARK = "ladder_mark";

  private static final String[] ONES = "1 ".repeat(COLUMNS).split(" ");

  /** What the catalogue holds, in the words in which it is asked. */
  private static final List<String> SORTS =
      List.of(
          "class r",
          "class v",
          "class S",
          "constraint u",
          "constraint f",
          "routine f",
          "type e",
          "trigger");

  private static final byte[] SALT = "a pretended salt".getBytes(StandardCharsets.US_ASCII);
  private static final Map<String, String> PARAMETERS =
      Map.of(
          "server_version", "18.0",
          "server_encoding", "UTF8",
          "client_encoding", "UTF8",
          "DateStyle", "ISO, MDY",
          "TimeZone", "UTC",
          "integer_datetimes", "on",
          "standard_conforming_strings", "on");

  private final ServerSocket entry;

  PretendPostgres() throws IOException {
    entry = new ServerSocket(0, 1, InetAddress.getLoopbackAddress());
    Thread thread = new Thread(this::accept, "pretended server");
    thread.setDaemon(true);
    thread.start();
  }

  int port() {
    return entry.getLocalPort();
  }

  private void accept() {
    while (!entry.isClosed()) {
      try (Socket client = entry.accept()) {
        new Dialogue(
                new DataInputStream(client.getInputStream()),
                new DataOutputStream(client.getOutputStream()),
                new HashMap<>())
            .hold();
      } catch (IOException | GeneralSecurityException e) {
        // The client went away, or the training is over.
        continue;
      }
    }
  }

  @Override
  public void close() throws IOException {
    entry.close();
  }

  /** One connection. */
  private record Dialogue(DataInputStream in, DataOutputStream out, Map<String, String> prepared) {
    void hold() throws IOException, GeneralSecurityException {
      start();
      prove();
      for (Map.Entry<String, String> parameter : PARAMETERS.entrySet()) {
        send('S', text(parameter.getKey() + "\0" + parameter.getValue() + "\0"));
      }
      send('K', new byte[8]);
      ready();
      for (int type = in.readByte(); type != 'X'; type = in.readByte()) {
        byte[] body = body();
        String message = new String(body, 0, body.length - 1, StandardCharsets.UTF_8);
        for (Statement query : Splitter.split(message, Dialects.POSTGRES, Place.of("query"))) {
          answer(query.text());
        }
        ready();
      }
    }

    private void answer(String query) throws IOException {
      if (query.contains("pg_try_advisory_lock")) {
        rows("t", "1");
      } else if (query.contains("backend_start")) {
        rows("1", "2026-11-23 07:14:38", "pretended", "public", "f");
      } else if (query.contains("'class '")) {
        sorts();
      } else if (query.contains(MARK)) {
        columns(List.of(MARK));
        row("1");
        send('C', text("SELECT 1\0"));
      } else if (query.startsWith("PREPARE")) {
        prepared.put(query.split(" ")[1], query.substring(query.indexOf(" AS ") + 4));
        send('C', text("PREPARE\0"));
      } else if (query.startsWith("EXECUTE ladder_query")) {
        answer(prepared.get(query.split(" ")[1]));
      } else if (query.contains("indkey")) {
        String[] plain = ONES.clone();
        plain[INDEX_DEFINITION] = null;
        rows(plain);
      } else if (query.contains("confkey")) {
        String[] reference = ONES.clone();
        reference[TARGET_COLUMNS] = "{1}";
        rows(TEXTS_TYPE, reference);
      } else if (query.startsWith("SELECT")
          && (query.contains("pg_catalog.pg_") || query.contains("max("))) {
        rows(ONES);
      } else if (query.startsWith("SELECT")) {
        columns(Collections.nCopies(COLUMNS, "c"));
        send('C', text("SELECT 0\0"));
      } else {
        send('C', text("SET\0"));
      }
    }

    private void sorts() throws IOException {
      columns(List.of("c"));
      for (String sort : SORTS) {
        row(sort);
      }
      send('C', text("SELECT 1\0"));
    }

    /** The wish for a session; a wish to encrypt is declined. */
    private void start() throws IOException {
      int length = in.readInt();
      int code = in.readInt();
      in.readNBytes(length - 8);
      if (code == SSL_REQUEST) {
        out.writeByte('N');
        start();
      }
    }

    private void prove() throws IOException, GeneralSecurityException {
      send('R', number(10), text("SCRAM-SHA-256\0\0"));
      in.readByte();
      String first = new String(body(), StandardCharsets.UTF_8);
      String bare = first.substring(first.indexOf("n=", first.indexOf(",,")));
      String nonce = bare.substring(bare.indexOf("r=")) + "pretended";
      String answer = nonce + ",s=" + Base64.getEncoder().encodeToString(SALT) + ",i=" + ROUNDS;
      send('R', number(11), text(answer));
      in.readByte();
      String last = new String(body(), StandardCharsets.UTF_8);
      String message = bare + "," + answer + "," + last.substring(0, last.lastIndexOf(",p="));
      PBEKeySpec key = new PBEKeySpec(PASSWORD.toCharArray(), SALT, ROUNDS, KEY_BITS);
      byte[] salted =
          SecretKeyFactory.getInstance("PBKDF2WithHmacSHA256").generateSecret(key).getEncoded();
      byte[] signature = hmac(hmac(salted, "Server Key"), message);
      send('R', number(12), text("v=" + Base64.getEncoder().encodeToString(signature)));
      send('R', number(0));
    }

    private static byte[] hmac(byte[] key, String message) throws GeneralSecurityException {
      Mac mac = Mac.getInstance("HmacSHA256");
      mac.init(new SecretKeySpec(key, "HmacSHA256"));
      return mac.doFinal(text(message));
    }

    private void rows(String... values) throws IOException {
      rows(TEXT_TYPE, values);
    }

    private void rows(int type, String... values) throws IOException {
      columns(Collections.nCopies(values.length, "c"), type);
      row(values);
      send('C', text("SELECT 1\0"));
    }

    private void row(String... values) throws IOException {
      ByteArrayOutputStream row = new ByteArrayOutputStream();
      DataOutputStream cells = new DataOutputStream(row);
      cells.writeShort(values.length);
      for (String value : values) {
        if (value == null) {
          cells.writeInt(-1);
        } else {
          cells.writeInt(value.length());
          cells.write(text(value));
        }
      }
      send('D', row.toByteArray());
    }

    private void columns(List<String> names) throws IOException {
      columns(names, TEXT_TYPE);
    }

    private void columns(List<String> names, int type) throws IOException {
      ByteArrayOutputStream description = new ByteArrayOutputStream();
      DataOutputStream columns = new DataOutputStream(description);
      columns.writeShort(names.size());
      for (String name : names) {
        columns.write(text(name + "\0"));
        columns.writeInt(0);
        columns.writeShort(0);
        columns.writeInt(type);
        columns.writeShort(-1);
        columns.writeInt(-1);
        columns.writeShort(0);
      }
      send('T', description.toByteArray());
    }

    private void ready() throws IOException {
      send('Z', text("I"));
      out.flush();
    }

    private byte[] body() throws IOException {
      return in.readNBytes(in.readInt() - 4);
    }

    private void send(char type, byte[]... parts) throws IOException {
      int length = 4;
      for (byte[] part : parts) {
        length += part.length;
      }
      out.writeByte(type);
      out.writeInt(length);
      for (byte[] part : parts) {
        out.write(part);
      }
    }

    private static byte[] text(String text) {
      return text.getBytes(StandardCharsets.UTF_8);
    }

    private static byte[] number(int number) {
      return new byte[] {0, 0, 0, (byte) number};
    }
  }
}

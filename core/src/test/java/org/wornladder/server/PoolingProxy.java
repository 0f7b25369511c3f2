package org.wornladder.server;

import java.io.BufferedOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.ByteBuffer;

/**
 * Stands between a program and PostgreSQL as a pool in transaction mode does: after some queries it
 * deals the next transaction to another session of the server. It speaks as much of the protocol as
 * that takes (PostgreSQL manual, "Message Flow": start-up without a password, simple queries).
 */
public final class PoolingProxy implements AutoCloseable {
  private static final int SSL_REQUEST = 80_877_103;

  private final ServerSocket entry;
  private final int target;
  private final int queries;

  /**
   * @param queries after how many the session changes
   */
  public PoolingProxy(int target, int queries) throws IOException {
    this.target = target;
    this.queries = queries;
    entry = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
    Thread thread = new Thread(this::accept, "pool");
    thread.setDaemon(true);
    thread.start();
  }

  public int port() {
    return entry.getLocalPort();
  }

  private void accept() {
    while (!entry.isClosed()) {
      try (Socket near = entry.accept()) {
        serve(new DataInputStream(near.getInputStream()), out(near));
      } catch (IOException e) {
        // The program went away, or the proxy was closed.
        continue;
      }
    }
  }

  private static DataOutputStream out(Socket socket) throws IOException {
    socket.setTcpNoDelay(true);
    return new DataOutputStream(new BufferedOutputStream(socket.getOutputStream()));
  }

  private void serve(DataInputStream in, DataOutputStream out) throws IOException {
    byte[] start = startup(in, out);
    try (Socket first = new Socket(InetAddress.getLoopbackAddress(), target);
        Socket second = new Socket(InetAddress.getLoopbackAddress(), target)) {
      send(first, start);
      relay(first, out);
      send(second, start);
      relay(second, new DataOutputStream(OutputStream.nullOutputStream()));
      Socket dealt = first;
      boolean idle = true;
      for (int count = 0; ; ) {
        int type = in.readByte();
        byte[] body = body(in);
        if (type == 'X') {
          return;
        }
        if (idle && ++count > queries) {
          dealt = second;
        }
        DataOutputStream far = out(dealt);
        far.writeByte(type);
        far.writeInt(body.length + 4);
        far.write(body);
        far.flush();
        idle = relay(dealt, out) == 'I';
      }
    }
  }

  private static void send(Socket to, byte[] message) throws IOException {
    DataOutputStream out = out(to);
    out.write(message);
    out.flush();
  }

  /** The message that asks for a session; a wish to encrypt is declined. */
  private static byte[] startup(DataInputStream in, DataOutputStream out) throws IOException {
    while (true) {
      int length = in.readInt();
      int code = in.readInt();
      byte[] rest = in.readNBytes(length - 8);
      if (code != SSL_REQUEST) {
        ByteBuffer whole = ByteBuffer.allocate(length);
        return whole.putInt(length).putInt(code).put(rest).array();
      }
      out.writeByte('N');
      out.flush();
    }
  }

  private static byte[] body(DataInputStream in) throws IOException {
    return in.readNBytes(in.readInt() - 4);
  }

  /** Hands on what the server says until it is ready; its transaction's state. */
  private static int relay(Socket from, DataOutputStream to) throws IOException {
    DataInputStream in = new DataInputStream(from.getInputStream());
    while (true) {
      int type = in.readByte();
      byte[] body = body(in);
      to.writeByte(type);
      to.writeInt(body.length + 4);
      to.write(body);
      if (type == 'Z') {
        to.flush();
        return body[0];
      }
    }
  }

  @Override
  public void close() throws IOException {
    entry.close();
  }
}

package org.wornladder.server;

import java.io.ByteArrayOutputStream;
import java.io.DataInputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicInteger;

/**
 * Stands before a document server, counts the commands that change something, and cuts a client off
 * for good before or behind one of them, as if it had been killed there.
 */
public final class DocumentProxy implements AutoCloseable {
  private static final Set<String> CHANGES =
      Set.of("insert", "update", "delete", "create", "createIndexes", "drop", "dropIndexes");

  /** The length of a message's header, its flags and the kind of its first section. */
  private static final int BEFORE_DOCUMENT = 16 + 4 + 1;

  private final ServerSocket entry;
  private final int target;
  private final List<Socket> open = new CopyOnWriteArrayList<>();
  private final AtomicInteger count = new AtomicInteger();
  private volatile int last = Integer.MAX_VALUE;
  private volatile boolean answers;
  private volatile boolean dead;

  public DocumentProxy(int target) throws IOException {
    this.target = target;
    entry = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
    daemon(this::accept);
  }

  public int port() {
    return entry.getLocalPort();
  }

  /**
   * Lets clients through until a command that changes something.
   *
   * @param command counted from 1
   * @param executed whether the server still carries it out, unheard
   */
  public void cutAt(int command, boolean executed) {
    count.set(0);
    dead = false;
    answers = executed;
    last = command;
  }

  /** Whether it came to that. */
  public boolean isCut() {
    return dead;
  }

  private void accept() {
    while (!entry.isClosed()) {
      try {
        Socket near = entry.accept();
        if (dead) {
          near.close();
          continue;
        }
        Socket far = new Socket(InetAddress.getLoopbackAddress(), target);
        open.addAll(List.of(near, far));
        daemon(() -> requests(near, far));
        daemon(() -> replies(far, near));
      } catch (IOException e) {
        return;
      }
    }
  }

  private void requests(Socket near, Socket far) {
    try (near;
        far) {
      DataInputStream in = new DataInputStream(near.getInputStream());
      OutputStream out = far.getOutputStream();
      while (true) {
        byte[] message = message(in);
        if (CHANGES.contains(command(message)) && count.incrementAndGet() >= last) {
          dead = true;
          if (answers) {
            out.write(message);
            out.flush();
            // Time for the server to carry it out.
            Thread.sleep(50);
          }
          cut();
          return;
        }
        out.write(message);
        out.flush();
      }
    } catch (IOException e) {
      return;
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  private static byte[] message(DataInputStream in) throws IOException {
    byte[] length = new byte[4];
    in.readFully(length);
    byte[] rest = new byte[ByteBuffer.wrap(length).order(ByteOrder.LITTLE_ENDIAN).getInt() - 4];
    in.readFully(rest);
    ByteArrayOutputStream whole = new ByteArrayOutputStream();
    whole.write(length);
    whole.write(rest);
    return whole.toByteArray();
  }

  /** The name of the first element of a message's document. */
  private static String command(byte[] message) {
    int start = BEFORE_DOCUMENT + 4 + 1;
    int end = start;
    while (end < message.length && message[end] != 0) {
      end++;
    }
    return start < end ? new String(message, start, end - start, StandardCharsets.UTF_8) : "";
  }

  private void replies(Socket far, Socket near) {
    byte[] buffer = new byte[1 << 14];
    try (far;
        near) {
      for (int read = far.getInputStream().read(buffer);
          read >= 0 && !dead;
          read = far.getInputStream().read(buffer)) {
        near.getOutputStream().write(buffer, 0, read);
        near.getOutputStream().flush();
      }
    } catch (IOException e) {
      return;
    }
  }

  private void cut() throws IOException {
    for (Socket socket : open) {
      socket.close();
    }
    open.clear();
  }

  private static void daemon(Runnable work) {
    Thread thread = new Thread(work, "document proxy");
    thread.setDaemon(true);
    thread.start();
  }

  @Override
  public void close() throws IOException {
    dead = true;
    cut();
    entry.close();
  }
}

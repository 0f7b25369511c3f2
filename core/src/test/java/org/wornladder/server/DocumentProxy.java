package org.wornladder.server;

import java.io.DataInputStream;
import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicInteger;
import org.bson.BsonDocument;

/**
 * Stands before a document server, counts the commands that change something, and cuts a client off
 * for good before or behind one of them, as if it had been killed there.
 */
public final class DocumentProxy implements AutoCloseable {
  private static final Set<String> CHANGES =
      Set.of(
          "insert",
          "update",
          "delete",
          "create",
          "createIndexes",
          "drop",
          "dropIndexes",
          "commitTransaction");

  private final ServerSocket entry;
  private final int target;
  private final Optional<EmulatedReplicaSet> replicaSet;
  private final List<Socket> open = new CopyOnWriteArrayList<>();
  private final List<BsonDocument> commands = new CopyOnWriteArrayList<>();
  private final AtomicInteger count = new AtomicInteger();
  private volatile int last = Integer.MAX_VALUE;
  private volatile boolean answers;
  private volatile boolean dead;

  private DocumentProxy(int target, Optional<EmulatedReplicaSet> replicaSet) throws IOException {
    this.target = target;
    this.replicaSet = replicaSet;
    entry = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
    daemon(this::accept);
  }

  /** Before a server by itself. */
  public static DocumentProxy of(int target) throws IOException {
    return new DocumentProxy(target, Optional.empty());
  }

  /** Makes a server by itself look like the primary one of a replica set. */
  public static DocumentProxy of(int target, EmulatedReplicaSet replicaSet) throws IOException {
    return new DocumentProxy(target, Optional.of(replicaSet));
  }

  public int port() {
    return entry.getLocalPort();
  }

  /** The commands that came, as clients sent them. */
  public List<BsonDocument> commands(String name) {
    return commands.stream().filter(command -> command.getFirstKey().equals(name)).toList();
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
        daemon(() -> serve(near, far));
      } catch (IOException e) {
        return;
      }
    }
  }

  private void serve(Socket near, Socket far) {
    List<BsonDocument> heard = new ArrayList<>();
    try (near;
        far) {
      DataInputStream requests = new DataInputStream(near.getInputStream());
      while (true) {
        DocumentMessage request = DocumentMessage.read(requests);
        BsonDocument command = request.body();
        commands.add(command);
        heard.add(command);
        boolean isLast = CHANGES.contains(command.getFirstKey()) && count.incrementAndGet() >= last;
        if (isLast) {
          dead = true;
        }
        if (isLast && !answers) {
          cut();
          return;
        }
        DocumentMessage reply =
            replicaSet.isPresent()
                ? replicaSet.get().reply(request, one -> exchange(one, far))
                : exchange(request, far);
        if (isLast) {
          cut();
          return;
        }
        near.getOutputStream().write(reply.bytes());
      }
    } catch (IOException e) {
      // The client is gone.
      replicaSet.ifPresent(one -> one.abortThoseOf(heard));
    }
  }

  private static DocumentMessage exchange(DocumentMessage request, Socket far) throws IOException {
    far.getOutputStream().write(request.bytes());
    return DocumentMessage.read(new DataInputStream(far.getInputStream()));
  }

  private void cut() throws IOException {
    for (Socket socket : open) {
      socket.close();
    }
    open.clear();
    replicaSet.ifPresent(EmulatedReplicaSet::abortAll);
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

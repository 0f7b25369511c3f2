package org.wornladder.server;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;

/** Stands between a program and a server on this machine, and cuts its connections when told. */
public final class CuttingProxy implements AutoCloseable {
  private final ServerSocket entry;
  private final int target;
  private final List<Socket> open = new CopyOnWriteArrayList<>();

  public CuttingProxy(int target) throws IOException {
    this(target, 0);
  }

  /** Listens on a port that is known beforehand. */
  public CuttingProxy(int target, int port) throws IOException {
    this.target = target;
    entry = new ServerSocket(port, 50, InetAddress.getLoopbackAddress());
    daemon(this::accept);
  }

  public int port() {
    return entry.getLocalPort();
  }

  private void accept() {
    while (!entry.isClosed()) {
      try {
        Socket near = entry.accept();
        Socket far = new Socket(InetAddress.getLoopbackAddress(), target);
        open.addAll(List.of(near, far));
        daemon(() -> pump(near, far));
        daemon(() -> pump(far, near));
      } catch (IOException e) {
        return;
      }
    }
  }

  private static void pump(Socket from, Socket to) {
    byte[] buffer = new byte[1 << 14];
    try (from;
        to) {
      InputStream in = from.getInputStream();
      OutputStream out = to.getOutputStream();
      for (int read = in.read(buffer); read >= 0; read = in.read(buffer)) {
        out.write(buffer, 0, read);
        out.flush();
      }
    } catch (IOException e) {
      return;
    }
  }

  private static void daemon(Runnable work) {
    Thread thread = new Thread(work, "proxy");
    thread.setDaemon(true);
    thread.start();
  }

  /** Cuts what is connected now; new connections are let through. */
  public void cut() {
    for (Socket socket : open) {
      try {
        socket.close();
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
    }
    open.clear();
  }

  @Override
  public void close() throws IOException {
    cut();
    entry.close();
  }
}

package org.wornladder.journal;

import java.io.IOException;
import java.net.InetAddress;
import java.nio.file.Files;
import java.nio.file.Path;
import org.wornladder.engine.Session;

/** Who runs the program, for the record. */
final class Identity {
  /** Asking the resolver for our own name can take seconds; the kernel knows it at once. */
  private static final Path KERNEL_NAME = Path.of("/proc/sys/kernel/hostname");

  private Identity() {}

  static Entry.Who of(Session session) {
    return new Entry.Who(session.user(), System.getProperty("user.name", ""), host(), session.id());
  }

  private static String host() {
    try {
      return Files.exists(KERNEL_NAME)
          ? Files.readString(KERNEL_NAME).strip()
          : InetAddress.getLocalHost().getHostName();
    } catch (IOException e) {
      return "";
    }
  }
}

package org.wornladder.cli;

import java.io.IOException;
import java.net.URL;
import java.net.URLConnection;
import java.net.URLStreamHandler;
import java.net.URLStreamHandlerFactory;
import java.security.Security;

/**
 * Answers who asks for a handler of HTTP that there is none to be opened, since nothing here
 * fetches anything. The platform's cryptography makes such a URL when it starts, and would search
 * every jar for a handler: a tenth of a short run on a server that asks for a password.
 */
final class NoHttp extends URLStreamHandler implements URLStreamHandlerFactory {
  private static final String HTTP = "http";

  /** Null, as the platform wants it, where its own handler shall serve. */
  @Override
  public URLStreamHandler createURLStreamHandler(String protocol) {
    return protocol.equals(HTTP) && !fetchesRevocations() ? this : null;
  }

  /** Whether the user wants certificates held against lists of revoked ones, which are fetched. */
  private static boolean fetchesRevocations() {
    return Boolean.getBoolean("com.sun.security.enableCRLDP")
        || Boolean.parseBoolean(Security.getProperty("ocsp.enable"));
  }

  @Override
  protected URLConnection openConnection(URL url) throws IOException {
    throw new IOException("nothing is fetched over HTTP");
  }
}

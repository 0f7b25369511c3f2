package org.wornladder.cli.view;

import java.io.StringWriter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import javax.xml.stream.XMLOutputFactory;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamWriter;

/** A report in the XML that build servers read as the results of JUnit tests. */
final class JunitXml {
  private final String suite;
  private final List<Case> cases = new ArrayList<>();

  /**
   * @param skipped why it was not run; empty if it was
   */
  private record Case(
      String classname, String name, long millis, List<String> failures, String skipped) {}

  JunitXml(String suite) {
    this.suite = suite;
  }

  /** Adds a test case; it failed if there are failures. */
  void add(String classname, String name, long millis, List<String> failures) {
    cases.add(new Case(classname, name, millis, List.copyOf(failures), ""));
  }

  /** Adds a test case that was not run. */
  void skip(String classname, String name, String reason) {
    cases.add(new Case(classname, name, 0, List.of(), reason));
  }

  String text() {
    StringWriter text = new StringWriter();
    try {
      XMLStreamWriter xml = XMLOutputFactory.newFactory().createXMLStreamWriter(text);
      xml.writeStartDocument("UTF-8", "1.0");
      xml.writeCharacters("\n");
      xml.writeStartElement("testsuite");
      xml.writeAttribute("name", safe(suite));
      xml.writeAttribute("tests", Integer.toString(cases.size()));
      xml.writeAttribute(
          "failures",
          Long.toString(cases.stream().filter(one -> !one.failures().isEmpty()).count()));
      xml.writeAttribute("errors", "0");
      xml.writeAttribute(
          "skipped", Long.toString(cases.stream().filter(one -> !one.skipped().isEmpty()).count()));
      xml.writeAttribute("time", seconds(cases.stream().mapToLong(Case::millis).sum()));
      for (Case one : cases) {
        write(xml, one);
      }
      xml.writeCharacters("\n");
      xml.writeEndElement();
      xml.writeEndDocument();
      xml.close();
    } catch (XMLStreamException e) {
      throw new IllegalStateException("a text in memory can always be written", e);
    }
    return text.toString();
  }

  private static void write(XMLStreamWriter xml, Case one) throws XMLStreamException {
    xml.writeCharacters("\n  ");
    xml.writeStartElement("testcase");
    xml.writeAttribute("classname", safe(one.classname()));
    xml.writeAttribute("name", safe(one.name()));
    xml.writeAttribute("time", seconds(one.millis()));
    if (!one.skipped().isEmpty()) {
      xml.writeEmptyElement("skipped");
      xml.writeAttribute("message", safe(one.skipped()));
    }
    if (!one.failures().isEmpty()) {
      xml.writeStartElement("failure");
      xml.writeAttribute("message", safe(one.failures().get(0)));
      xml.writeAttribute("type", "not proved");
      xml.writeCharacters(safe(String.join("\n", one.failures())));
      xml.writeEndElement();
    }
    xml.writeEndElement();
  }

  private static String seconds(long millis) {
    return String.format(Locale.ROOT, "%.3f", millis / 1000.0);
  }

  /** Without characters that XML cannot hold (XML 1.0, section 2.2). */
  private static String safe(String text) {
    return text.replaceAll("[^\\t\\n\\r\\x20-\\uD7FF\\uE000-\\uFFFD\\x{10000}-\\x{10FFFF}]", "?");
  }
}

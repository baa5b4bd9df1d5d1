package jandrel.sources;

import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;

/** A WebDAV multistatus answer (RFC 4918 §13), read as a stream without DTDs or entities of its own. */
record Multistatus(List<Answer> answers, String token) {
    static final String CALDAV = "urn:ietf:params:xml:ns:caldav";
    static final String CARDDAV = "urn:ietf:params:xml:ns:carddav";
    /** Where the de-facto property for a calendar's colour lives. */
    static final String COLOURS = "http://apple.com/ns/ical/";

    private static final Set<String> KINDS = Set.of("report", "privilege", "resourcetype");
    private static final XMLInputFactory XML = factory();

    /** @param sets what the elements of a kind hold, by the kind: {@code report}, {@code privilege}, {@code resourcetype} */
    record Answer(
            String href,
            String status,
            Map<String, String> texts,
            List<String> components,
            Map<String, Set<String>> sets,
            List<String> statuses) {
        /** Only for the response's own status; a property that is missing has one, too. */
        boolean isGone() {
            return status.contains(" 404");
        }

        /** Whether it is a collection of that kind. */
        boolean is(String kind) {
            return said("resourcetype").contains(kind);
        }

        Set<String> said(String kind) {
            return sets.getOrDefault(kind, Set.of());
        }

        String text(String property) {
            return texts.getOrDefault(property, "");
        }
    }

    /** The worst of what it says of each, and of their properties, as a number; 200 where all went well. */
    int worst() {
        int worst = 200;
        for (Answer answer : answers) {
            for (String status : answer.statuses()) {
                String[] words = status.strip().split(" ", 0);
                int number = words.length > 1 && words[1].matches("[1-5]\\d\\d") ? Integer.parseInt(words[1]) : 500;
                worst = Math.max(worst, number);
            }
        }
        return worst;
    }

    private static XMLInputFactory factory() {
        XMLInputFactory factory = XMLInputFactory.newDefaultFactory();
        factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
        factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
        factory.setProperty(XMLInputFactory.IS_COALESCING, true);
        return factory;
    }

    static Multistatus read(InputStream in) throws IOException {
        List<Answer> answers = new ArrayList<>();
        String token = "";
        try {
            XMLStreamReader xml = XML.createXMLStreamReader(in);
            while (xml.hasNext()) {
                if (xml.next() == XMLStreamConstants.START_ELEMENT) {
                    if (xml.getLocalName().equals("response")) {
                        answers.add(answer(xml));
                    } else if (xml.getLocalName().equals("sync-token")) {
                        token = xml.getElementText().strip();
                    }
                }
            }
        } catch (XMLStreamException malformed) {
            Throwable failure = malformed.getNestedException();
            throw new IOException("the answer is not well-formed XML", failure == null ? malformed : failure);
        }
        return new Multistatus(answers, token);
    }

    private static Answer answer(XMLStreamReader xml) throws XMLStreamException {
        String href = "";
        String status = "";
        Map<String, String> texts = new HashMap<>();
        List<String> components = new ArrayList<>();
        Map<String, Set<String>> sets = new HashMap<>();
        List<String> statuses = new ArrayList<>(1);
        List<String> path = new ArrayList<>();
        StringBuilder text = new StringBuilder();
        for (int event = xml.next(); event != XMLStreamConstants.END_DOCUMENT; event = xml.next()) {
            if (event == XMLStreamConstants.START_ELEMENT) {
                if (!path.isEmpty() && KINDS.contains(path.get(path.size() - 1))) {
                    sets.computeIfAbsent(path.get(path.size() - 1), k -> new HashSet<>())
                            .add(xml.getLocalName());
                }
                path.add(xml.getLocalName());
                text.setLength(0);
                if (xml.getLocalName().equals("comp")) {
                    components.add(String.valueOf(xml.getAttributeValue(null, "name")));
                }
            } else if (event == XMLStreamConstants.CHARACTERS || event == XMLStreamConstants.CDATA) {
                text.append(xml.getText());
            } else if (event == XMLStreamConstants.END_ELEMENT) {
                if (path.isEmpty()) {
                    break;
                }
                String name = path.remove(path.size() - 1);
                if (path.isEmpty() && name.equals("href")) {
                    href = text.toString().strip();
                } else if (name.equals("status")) {
                    statuses.add(text.toString());
                    status = path.isEmpty() ? text.toString() : status;
                } else if (path.contains("prop") && !text.toString().isBlank()) {
                    // a property's value, or the href inside of one
                    texts.putIfAbsent(name.equals("href") ? path.get(path.size() - 1) : name, text.toString());
                }
                text.setLength(0);
            }
        }
        return new Answer(href, status, texts, components, sets, statuses);
    }

    static String escaped(String text) {
        return text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;");
    }
}

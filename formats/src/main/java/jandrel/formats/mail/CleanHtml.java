package jandrel.formats.mail;

import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.owasp.html.HtmlPolicyBuilder;
import org.owasp.html.HtmlSanitizer;
import org.owasp.html.PolicyFactory;

/** Makes mail's HTML harmless: no script, no style, nothing that is fetched from elsewhere, links that carry no referrer. */
final class CleanHtml {
    private static final PolicyFactory POLICY = new HtmlPolicyBuilder()
            .allowElements(
                    "p",
                    "div",
                    "span",
                    "br",
                    "hr",
                    "b",
                    "strong",
                    "i",
                    "em",
                    "u",
                    "s",
                    "sub",
                    "sup",
                    "code",
                    "pre",
                    "blockquote",
                    "ul",
                    "ol",
                    "li",
                    "dl",
                    "dt",
                    "dd",
                    "h1",
                    "h2",
                    "h3",
                    "h4",
                    "h5",
                    "h6",
                    "table",
                    "thead",
                    "tbody",
                    "tfoot",
                    "tr",
                    "td",
                    "th",
                    "caption")
            .allowElements("a")
            .allowUrlProtocols("http", "https", "mailto")
            .allowAttributes("href")
            .onElements("a")
            .requireRelsOnLinks("noopener", "noreferrer", "nofollow")
            .allowAttributes("colspan", "rowspan")
            .onElements("td", "th")
            .toFactory();
    private static final Set<String> BLOCKS = Set.of(
            "p",
            "div",
            "br",
            "hr",
            "li",
            "tr",
            "table",
            "blockquote",
            "pre",
            "ul",
            "ol",
            "h1",
            "h2",
            "h3",
            "h4",
            "h5",
            "h6");
    private static final Set<String> SILENT = Set.of("script", "style", "head", "title", "noscript", "template");

    private CleanHtml() {}

    static String sanitise(String html) {
        return POLICY.sanitize(html);
    }

    /** The words alone, a line a block. */
    static String text(String html) {
        TextOnly words = new TextOnly();
        HtmlSanitizer.sanitize(html, words);
        return words.text();
    }

    private static final class TextOnly implements HtmlSanitizer.Policy {
        private final StringBuilder out = new StringBuilder();
        private int silent;

        @Override
        public void openDocument() {}

        @Override
        public void closeDocument() {}

        @Override
        public void openTag(String name, List<String> attributes) {
            silent += SILENT.contains(name) ? 1 : 0;
            breakAt(name);
        }

        @Override
        public void closeTag(String name) {
            silent -= SILENT.contains(name) && silent > 0 ? 1 : 0;
            breakAt(name);
        }

        @Override
        public void text(@Nullable String text) {
            if (silent == 0 && text != null) {
                out.append(text);
            }
        }

        private void breakAt(String name) {
            if (BLOCKS.contains(name) && !out.isEmpty() && out.charAt(out.length() - 1) != '\n') {
                out.append('\n');
            }
        }

        private String text() {
            return out.toString()
                    .replaceAll("[ \\t\\x0B\\f\\r]+", " ")
                    .replaceAll(" ?\\n ?", "\n")
                    .replaceAll("\\n{3,}", "\n\n")
                    .strip();
        }
    }
}

package jandrel.formats.mail;

import java.io.IOException;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.owasp.html.HtmlPolicyBuilder;
import org.owasp.html.HtmlSanitizer;
import org.owasp.html.HtmlStreamRenderer;
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

    private static final int MOST_BARE = 12_000;
    private static final int ROOM = 10_000;

    private CleanHtml() {}

    /** Harmless markup of about the same length; of what would grow by being cleaned, its words alone. */
    static String sanitise(String html) {
        Bounded clean = new Bounded(2 * html.length() + ROOM);
        try {
            HtmlSanitizer.sanitize(html, POLICY.apply(HtmlStreamRenderer.create(clean, CleanHtml::over, bad -> {})));
            return clean.out.toString();
        } catch (Over tooMuch) {
            return asMarkup(text(html));
        }
    }

    private static String asMarkup(String words) {
        StringBuilder markup = new StringBuilder(words.length() + 100);
        HtmlStreamRenderer renderer = HtmlStreamRenderer.create(markup, bad -> {});
        renderer.openDocument();
        renderer.openTag("pre", List.of());
        renderer.text(words);
        renderer.closeTag("pre");
        renderer.closeDocument();
        return markup.toString();
    }

    private static void over(IOException over) {
        throw new Over();
    }

    /** The words alone, a line a block. */
    static String text(String html) {
        TextOnly words = new TextOnly(2L * html.length() + ROOM);
        try {
            HtmlSanitizer.sanitize(html, words);
        } catch (Over tooMuch) {
            // what was read of it counts
        }
        return words.text();
    }

    /** Elements that are never closed are opened anew in each that follows: a short text can ask for millions. */
    private static final class Over extends RuntimeException {
        private static final long serialVersionUID = 1L;

        Over() {
            super("its markup grows without end", null, false, false);
        }
    }

    private static final class Bounded implements Appendable {
        private final StringBuilder out = new StringBuilder();
        private final int most;

        Bounded(int most) {
            this.most = most;
        }

        @Override
        public Appendable append(CharSequence text) throws IOException {
            return append(text, 0, text.length());
        }

        @Override
        public Appendable append(CharSequence text, int from, int to) throws IOException {
            if (out.length() + to - from > most) {
                throw new IOException("longer than " + most);
            }
            out.append(text, from, to);
            return this;
        }

        @Override
        public Appendable append(char c) throws IOException {
            return append(String.valueOf(c), 0, 1);
        }
    }

    /** What stands outside of tags, in one quick pass: to compare copies by, never to be shown. */
    static String bare(String html) {
        StringBuilder words = new StringBuilder(Math.min(html.length(), 8_192));
        boolean tag = false;
        for (int i = 0; i < html.length() && words.length() < MOST_BARE; i++) {
            char c = html.charAt(i);
            if (c == '<' || c == '>') {
                tag = c == '<';
            } else if (!tag) {
                words.append(c);
            }
        }
        return words.toString();
    }

    private static final class TextOnly implements HtmlSanitizer.Policy {
        private final StringBuilder out = new StringBuilder();
        private long tags;
        private int silent;

        /** @param most letters of names of tags */
        TextOnly(long most) {
            tags = most;
        }

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
            tags -= name.length();
            if (tags < 0) {
                throw new Over();
            }
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

package jandrel.bench;

import jandrel.formats.mail.MailLimits;
import jandrel.formats.mail.MailReader;
import jandrel.formats.mail.NewText;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.apache.james.mime4j.MimeException;

/** From bytes to facts and text, against what the MIME library alone takes to walk and decode the same messages. One core. */
final class ReadingMail {
    private static final int MESSAGES = 4_000;
    private static final int ROUNDS = 12;
    private static final Instant AT = Instant.parse("2026-05-04T12:00:00Z");
    private final List<byte[]> messages = new ArrayList<>();
    private final List<String> replies = new ArrayList<>();
    private long kept;

    private ReadingMail() {
        SyntheticMail letters = new SyntheticMail();
        for (int i = 0; i < MESSAGES; i++) {
            messages.add(letters.letter(i, AT, "rep@corvane.example"));
            String text = letters.text(300 + i % 900);
            replies.add(text + "\n\nOn Monday Contact wrote:\n> "
                    + letters.text(1_200).replace("\r\n", "\n> ") + "\n\n-- \nContact " + i % 40
                    + "\nTel. +47 22 33 44 55\n");
        }
    }

    static void run() throws IOException, MimeException {
        ReadingMail bench = new ReadingMail();
        double floor = Double.MAX_VALUE;
        double facts = Double.MAX_VALUE;
        double text = Double.MAX_VALUE;
        for (int round = 0; round < ROUNDS; round++) {
            floor = Math.min(floor, bench.walked());
            facts = Math.min(facts, bench.read());
            text = Math.min(text, bench.newTexts());
        }
        Figures.line("floor: mime4j walks and decodes", "%.1f us a message", floor * 1e6 / MESSAGES);
        Figures.line(
                "whole MIME to facts and text",
                "%.1f us a message   %.2fx (bar 1.5)",
                facts * 1e6 / MESSAGES,
                facts / floor);
        Figures.line(
                "new text without history and signature",
                "%,.0f messages/s a core (bar 20,000)   %d",
                MESSAGES / text,
                bench.kept % 10);
    }

    private double walked() throws IOException, MimeException {
        BareMimeWalk walk = new BareMimeWalk();
        long began = System.nanoTime();
        walk.over(messages);
        double took = (System.nanoTime() - began) / 1e9;
        kept += walk.kept();
        return took;
    }

    private double read() {
        MailReader reader = new MailReader(MailLimits.USUAL);
        long began = System.nanoTime();
        for (byte[] message : messages) {
            kept += reader.read(message, AT, "here").item().parties().size();
        }
        return (System.nanoTime() - began) / 1e9;
    }

    private double newTexts() {
        long began = System.nanoTime();
        for (String reply : replies) {
            kept += NewText.of(reply).length();
        }
        return (System.nanoTime() - began) / 1e9;
    }
}

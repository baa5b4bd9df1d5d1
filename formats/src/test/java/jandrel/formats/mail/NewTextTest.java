package jandrel.formats.mail;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class NewTextTest {
    private static final String NEW = "Hello Ina,\n\nthe buoys come on Monday.\n\nBram";

    @Test
    void aMessageOfItsOwnIsNewAsAWhole() {
        assertThat(NewText.of(NEW)).isEqualTo(NEW);
        assertThat(NewText.of("")).isEmpty();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "\n\n> When do they come?\n> Ina\n",
                "\n\nOn 4 May 2026 at 12:00, Ina Vale <ina@corvane.example> wrote:\n\n> When do they come?\n>\n> Ina",
                "\n\nAm 04.05.2026 um 12:00 schrieb Ina Vale\n<ina@corvane.example>:\n> Wann?\n>> Und wo?\n",
                "\n\nLe lun. 4 mai 2026 à 12:00, Ina Vale <ina@corvane.example> a écrit :\n\n> Quand ?",
                "\n\n-----Original Message-----\nFrom: Ina Vale <ina@corvane.example>\nSent: Monday\nTo: Bram\nSubject: Buoys\n\nWhen?",
                "\n\n________________________________\nVon: Ina Vale <ina@corvane.example>\nGesendet: Montag\nAn: Bram\nBetreff: Bojen\n\nWann?",
                "\n\n*From:* Ina Vale <ina@corvane.example>\n*Sent:* Monday\n*To:* Bram\n\nWhen?\n\n> earlier",
                "\n\nОт: Ина <ina@corvane.example>\nДата: понедельник\nКому: Брам\n\nКогда?",
                "\n-- \nBram Holm\nPort of Skarvik\n+47 555 0100",
                "\n--\nBram Holm",
                "\n-- \nBram Holm\n\nOn Monday Ina wrote:\n> When?",
                "\n\nOn Monday Ina wrote:\n> When?\n> -- \n> Ina\n\n-- \nBram Holm\n"
            })
    void historyAndSignatureAreCutOff(String rest) {
        assertThat(NewText.of(NEW + rest)).isEqualTo(NEW);
    }

    @Test
    void answersBetweenQuotedLinesKeepWhatTheyAnswer() {
        String between = "On Monday Ina wrote:\n> When?\n\nOn Monday.\n\n> Where?\n\nAt the quay.";
        assertThat(NewText.of(between + "\n\n> Thanks,\n> Ina\n-- \nBram")).isEqualTo(between);
    }

    @Test
    void whatHasNothingOfItsOwnIsShownWhole() {
        String forwarded =
                "---------- Forwarded ----------\nFrom: Ina <ina@corvane.example>\nDate: Monday\nTo: Bram\n\nHello";
        assertThat(NewText.of(forwarded)).isEqualTo(forwarded);
        assertThat(NewText.of("> only quoted\n> lines\n")).isEqualTo("> only quoted\n> lines\n");
    }

    @Test
    void aListOfPropertiesIsNoHistory() {
        String order = "Here is the order:\n\nItem: buoy\nColour: red\nCount: 4\nPort: Skarvik";
        assertThat(NewText.of(order)).isEqualTo(order);
        String asked = "Please send me:\nyour name and\nthe address:";
        assertThat(NewText.of(asked)).isEqualTo(asked);
    }

    @Test
    void aRuleInsideTheTextStays() {
        String text = "Above\n-----\nBelow";
        assertThat(NewText.of(text)).isEqualTo(text);
    }

    /** Whatever comes, it is a beginning of the text but for the ends of its lines, and never nothing of something. */
    @ParameterizedTest
    @ValueSource(ints = {1, 2, 3, 4})
    void itIsABeginningOfWhateverText(int seed) {
        Random random = new Random(seed);
        String[] pieces = {
            "> ", "-- ", "\n", "\n", "From: a@b.example", "To: x", "Name: y", "-----", "word", ":", " ", "é"
        };
        for (int i = 0; i < 3_000; i++) {
            StringBuilder text = new StringBuilder();
            for (int n = random.nextInt(30); n > 0; n--) {
                text.append(pieces[random.nextInt(pieces.length)]);
            }
            String cut = NewText.of(text.toString());
            assertThat(text.toString()).startsWith(cut);
            assertThat(cut.isBlank()).isEqualTo(text.toString().isBlank());
            assertThat(NewText.of(cut).length()).isLessThanOrEqualTo(cut.length());
        }
    }

    @Test
    void aMillionLinesTakeNoTime() {
        assertThat(NewText.of("New\n\n" + "> old\n".repeat(1_000_000))).isEqualTo("New");
        assertThat(NewText.of("New\n" + "A: b\n".repeat(500_000))).startsWith("New");
        assertThat(NewText.of("x\n" + "\n-- \ny".repeat(300_000))).startsWith("x");
    }
}

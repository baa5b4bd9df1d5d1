package jandrel.bench;

import jandrel.core.address.EmailAddress;
import jandrel.core.decide.Decider;
import jandrel.core.decide.Decision;
import jandrel.core.decide.SourceContext;
import jandrel.core.directory.Account;
import jandrel.core.directory.Contact;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.directory.Exclusion;
import jandrel.core.directory.Insider;
import jandrel.core.directory.Opportunity;
import jandrel.core.item.MailItem;
import jandrel.core.item.Nature;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import jandrel.core.policy.Policy;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import java.util.UUID;
import java.util.concurrent.TimeUnit;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OperationsPerInvocation;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.Warmup;
import org.openjdk.jmh.infra.Blackhole;
import org.openjdk.jmh.runner.Runner;
import org.openjdk.jmh.runner.RunnerException;
import org.openjdk.jmh.runner.options.OptionsBuilder;
import org.openjdk.jmh.runner.options.VerboseMode;

/** The pure decision with its matching: a million synthetic messages among a hundred thousand contacts, one thread. */
@State(Scope.Benchmark)
@BenchmarkMode(Mode.Throughput)
@OutputTimeUnit(TimeUnit.SECONDS)
@Warmup(iterations = 2, time = 4)
@Measurement(iterations = 4, time = 4)
@Fork(value = 1, jvmArgsAppend = "-Xmx6g")
public class DecideBench {
    private static final int MESSAGES = 1_000_000;
    private static final int CONTACTS = 100_000;
    private static final int ACCOUNTS = 10_000;
    private static final int PEOPLE = 300;
    private final List<MailItem> messages = new ArrayList<>(MESSAGES);
    private final SourceContext vantage = new SourceContext(id(1), Instant.EPOCH);
    private final Policy policy = Policy.first();
    private DirectorySlice slice = DirectorySlice.builder().build();

    private static UUID id(long n) {
        return new UUID(1, n);
    }

    @Setup
    public void fill() {
        DirectorySlice.Builder directory =
                DirectorySlice.builder().ownDomain("@corvane.example").freeMail("@free.example");
        for (int i = 0; i < PEOPLE; i++) {
            directory.person("p" + i + "@corvane.example", new Insider(id(i), "Person " + i));
        }
        for (int i = 0; i < ACCOUNTS; i++) {
            Account account = new Account(id(1_000 + i), "Account " + i, id(i % PEOPLE));
            directory.accountDomain("@a" + i + ".example", account);
            for (int o = 0; o < i % 3; o++) {
                directory.open(account.id(), new Opportunity(id(50_000 + 3L * i + o), "Opportunity " + i));
            }
            for (int c = 0; c < CONTACTS / ACCOUNTS; c++) {
                directory.contact(
                        "c" + c + "@a" + i + ".example",
                        new Contact(id(200_000L + 10L * i + c), "k" + c, "Contact " + c, account, null));
            }
        }
        for (int i = 0; i < 500; i++) {
            directory.exclusion(Exclusion.of(id(900_000 + i), "@x" + i + ".example", ""));
        }
        slice = directory.build();
        SplittableRandom random = new SplittableRandom(7);
        for (int i = 0; i < MESSAGES; i++) {
            messages.add(message(i, random));
        }
    }

    /** Of a hundred: seventy with contacts, ten with strangers at accounts, ten with nobody known, five excluded, five in bulk. */
    private static MailItem message(int n, SplittableRandom random) {
        int kind = random.nextInt(100);
        String account = "a" + random.nextInt(ACCOUNTS) + ".example";
        String outside = kind < 70
                ? "c" + random.nextInt(10) + "@" + account
                : kind < 80
                        ? "new" + n + "@" + account
                        : kind < 90
                                ? "someone" + n + "@elsewhere" + n % 5_000 + ".example"
                                : kind < 95 ? "y@x" + random.nextInt(500) + ".example" : "news@bulk.example";
        List<Party> parties = new ArrayList<>(
                List.of(party(Part.FROM, outside), party(Part.TO, "p" + random.nextInt(PEOPLE) + "@corvane.example")));
        for (int cc = random.nextInt(3); cc > 0; cc--) {
            parties.add(party(Part.CC, "c" + random.nextInt(10) + "@" + account));
        }
        Nature nature = kind < 95 ? Nature.ORDINARY : new Nature(Nature.Kind.BULK, "Precedence: bulk");
        return new MailItem(
                "mail:" + n, Instant.ofEpochSecond(1_750_000_000L + n), true, parties, "Subject " + n, nature);
    }

    private static Party party(Part part, String address) {
        return new Party(part, EmailAddress.of(address), "");
    }

    @Benchmark
    @OperationsPerInvocation(MESSAGES)
    public void decide(Blackhole sink) {
        for (MailItem message : messages) {
            Decision decision = Decider.decide(message, vantage, policy, slice);
            sink.consume(decision);
        }
    }

    static void run() throws RunnerException {
        var results = new Runner(new OptionsBuilder()
                        .include(DecideBench.class.getName())
                        .verbosity(VerboseMode.SILENT)
                        .build())
                .run();
        double perSecond = results.iterator().next().getPrimaryResult().getScore();
        Figures.line("decisions a second, one core", "%,.0f   (bar 200,000: %.1fx)", perSecond, perSecond / 200_000);
    }
}

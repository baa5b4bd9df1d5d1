package jandrel.service.capture;

import io.github.bucket4j.Bucket;
import jandrel.core.address.EmailAddress;
import jandrel.core.item.MailItem;
import jandrel.formats.mail.MailLimits;
import jandrel.formats.mail.MailReader;
import jandrel.service.connections.SyncScheduler;
import jandrel.service.kernel.Settings;
import jandrel.service.kernel.Vault;
import jandrel.sources.HandOver;
import jandrel.sources.HandOver.Refused;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Server;
import jandrel.store.connections.HandedOver;
import jandrel.store.people.People;
import java.net.InetAddress;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.SmartLifecycle;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * The service's own address: what somebody of the company sends there, mostly in blind copy, counts by hand. The company's mail
 * server hands it over; it is taken from people's known addresses alone, and only as fast as a person writes.
 */
@Component
class HandOvers implements SmartLifecycle, HandOver.Receiver {
    private static final Logger LOG = LoggerFactory.getLogger(HandOvers.class);
    /** What somebody hands over counts however old it is. */
    private static final Instant FROM_EVER = Instant.parse("1980-01-01T00:00:00Z");

    private static final String UNKNOWN =
            "5.7.1 Only people of the company hand over mail here, from their known addresses";
    private final Settings settings;
    private final HandedOver handed;
    private final Connections connections;
    private final People people;
    private final Vault vault;
    private final SyncScheduler looks;
    private final TransactionTemplate transactions;
    private final Clock clock;
    private final MailReader reader = new MailReader(MailLimits.USUAL);
    private final Map<UUID, Bucket> paces = new ConcurrentHashMap<>();
    private @Nullable HandOver open;

    HandOvers(
            Settings settings,
            HandedOver handed,
            Connections connections,
            People people,
            Vault vault,
            SyncScheduler looks,
            TransactionTemplate transactions,
            Clock clock) {
        this.settings = settings;
        this.handed = handed;
        this.connections = connections;
        this.people = people;
        this.vault = vault;
        this.looks = looks;
        this.transactions = transactions;
        this.clock = clock;
    }

    @Override
    public void start() {
        Settings.HandOver wanted = settings.handOver();
        if (wanted.port() == 0) {
            return;
        }
        open = HandOver.open(
                new HandOver.Wanted(
                        wanted.address(),
                        wanted.port(),
                        wanted.recipient(),
                        wanted.certificate().isEmpty() ? null : Path.of(wanted.certificate()),
                        wanted.key().isEmpty() ? null : Path.of(wanted.key()),
                        wanted.largest()),
                this);
        LOG.info("taking mail for {} on port {}", wanted.recipient(), wanted.port());
    }

    @Override
    public boolean mayHandOver(InetAddress from) {
        return from.isLoopbackAddress() || settings.handOver().from().contains(from.getHostAddress());
    }

    @Override
    public void from(String sender) throws Refused {
        UUID person = person(sender).orElseThrow(() -> new Refused(550, UNKNOWN));
        Bucket pace = paces.computeIfAbsent(
                person,
                p -> Bucket.builder()
                        .addLimit(limit -> limit.capacity(settings.handOver().perHour())
                                .refillGreedy(settings.handOver().perHour(), Duration.ofHours(1)))
                        .build());
        if (!pace.tryConsume(1)) {
            throw new Refused(
                    451, "4.7.1 More than " + settings.handOver().perHour() + " messages in an hour; try again later");
        }
    }

    private Optional<UUID> person(String address) {
        return EmailAddress.parse(address)
                .flatMap(a -> people.find(a.toString())
                        .or(() -> a.withoutDetail().flatMap(plain -> people.find(plain.toString()))))
                .map(People.Person::id);
    }

    @Override
    public void take(String sender, byte[] message) throws Refused {
        UUID person = person(sender).orElseThrow(() -> new Refused(550, UNKNOWN));
        // who wrote it must be who hands it over, or anybody could put words on timelines in another's name
        boolean own = reader.read(message, clock.instant(), "handed").item() instanceof MailItem mail
                && mail.parties().get(0).part() == jandrel.core.item.Party.Part.FROM
                && person(mail.parties().get(0).address().toString())
                        .filter(person::equals)
                        .isPresent();
        if (!own) {
            throw new Refused(
                    550, "5.7.1 Only what you wrote yourself can be handed over; its From is not your address");
        }
        UUID connection = transactions.execute(t -> kept(person, message));
        try {
            looks.now(java.util.Objects.requireNonNull(connection));
        } catch (RuntimeException later) {
            // it is safe already: the next look finds it
            LOG.warn("connection {} could not be looked at at once", connection, later);
        }
    }

    private UUID kept(UUID person, byte[] message) {
        UUID connection = handed.connection(person).orElseGet(() -> connect(person));
        handed.keep(connection, vault.seal(connection, message));
        return connection;
    }

    private UUID connect(UUID person) {
        connections.addServer(new Server(
                UUID.randomUUID(), HandedOver.SERVER, "smtp", "", 0, "", "handed", "", null, "", "", "", ""));
        UUID server = connections.servers().stream()
                .filter(s -> s.kind().equals("smtp"))
                .map(Server::id)
                .findFirst()
                .orElseThrow();
        UUID id = UUID.randomUUID();
        String account = people.one(person).map(People.Person::key).orElse(person.toString());
        connections.add(
                Connection.fresh(id, person, server, account, null, FROM_EVER, "capturing"), clock.instant(), "");
        // another message may have been faster
        UUID connection = handed.connection(person).orElseThrow();
        handed.addSource(connection);
        return connection;
    }

    @Override
    public void stop() {
        if (open != null) {
            open.close();
            open = null;
        }
    }

    @Override
    public boolean isRunning() {
        return open != null;
    }
}

package jandrel.core.directory;

import jandrel.core.address.DomainName;
import jandrel.core.address.EmailAddress;
import jandrel.core.address.PhoneNumber;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** The rows of the directory's files. Each knows the line it stands on; references to other rows are by key. */
public final class DirectoryRows {
    private DirectoryRows() {}

    /** One line of a file. */
    public sealed interface Row {
        /** Counted from 1, the header line included. */
        long line();

        String key();

        String name();
    }

    /** Columns {@code key, name, domains, owner, part_of}: of an account that is a part of another, that one's key. */
    public record AccountRow(long line, String key, String name, List<DomainName> domains, String owner, String partOf)
            implements Row {}

    /** Columns {@code key, name, addresses, company, owner}. */
    public record LeadRow(
            long line, String key, String name, List<EmailAddress> addresses, String company, String owner)
            implements Row {}

    /**
     * Columns {@code key, name, addresses, phones, account, title, last_active, since}.
     *
     * @param since the first day at that account; what is from before stays with the account before. Null for from the beginning
     * @param own of the company's own fields those that are named, by their keys; empty for nothing in it. The others stay as they are
     */
    public record ContactRow(
            long line,
            String key,
            String name,
            List<EmailAddress> addresses,
            List<PhoneNumber> phones,
            String account,
            String title,
            @Nullable LocalDate lastActive,
            @Nullable LocalDate since,
            Map<String, String> own)
            implements Row {
        public ContactRow {
            own = Map.copyOf(own);
        }

        /** One of whom no field of the company's own is named. */
        public ContactRow(
                long line,
                String key,
                String name,
                List<EmailAddress> addresses,
                List<PhoneNumber> phones,
                String account,
                String title,
                @Nullable LocalDate lastActive,
                @Nullable LocalDate since) {
            this(line, key, name, addresses, phones, account, title, lastActive, since, Map.of());
        }
    }

    /**
     * Columns {@code key, name, account, stage, state, value, currency, period, channel, owner, contacts}.
     *
     * @param period whether the value is once or every month
     * @param channel where it came from, as the company names it
     * @param contacts the keys of who has a part in it
     */
    public record OpportunityRow(
            long line,
            String key,
            String name,
            String account,
            String stage,
            OpportunityState state,
            @Nullable BigDecimal value,
            String currency,
            Period period,
            String channel,
            String owner,
            List<String> contacts)
            implements Row {}

    /**
     * How an opportunity was before it came here. Columns {@code opportunity, at, stage, state, value, currency, period, channel, owner}.
     *
     * @param opportunity its key
     * @param at from which moment on
     */
    public record OpportunityWas(
            long line,
            String opportunity,
            Instant at,
            String stage,
            OpportunityState state,
            @Nullable BigDecimal value,
            String currency,
            Period period,
            String channel,
            String owner) {}

    /** Columns {@code key, name, addresses, team, role}. */
    public record PersonRow(long line, String key, String name, List<EmailAddress> addresses, String team, String role)
            implements Row {}

    /** How often an opportunity's value is paid. */
    public enum Period {
        ONCE,
        MONTH;

        public String word() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /** Whether an opportunity can still be won. */
    public enum OpportunityState {
        OPEN,
        WON,
        LOST
    }
}

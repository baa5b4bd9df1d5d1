package jandrel.core.directory;

import jandrel.core.address.DomainName;
import jandrel.core.address.EmailAddress;
import jandrel.core.address.PhoneNumber;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
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
            @Nullable LocalDate since)
            implements Row {}

    /** Columns {@code key, name, account, stage, state, value, currency, owner, contacts}: the keys of who has a part in it. */
    public record OpportunityRow(
            long line,
            String key,
            String name,
            String account,
            String stage,
            OpportunityState state,
            @Nullable BigDecimal value,
            String currency,
            String owner,
            List<String> contacts)
            implements Row {}

    /** Columns {@code key, name, addresses, team, role}. */
    public record PersonRow(long line, String key, String name, List<EmailAddress> addresses, String team, String role)
            implements Row {}

    /** Whether an opportunity can still be won. */
    public enum OpportunityState {
        OPEN,
        WON,
        LOST
    }
}

package jandrel.store.directory;

import jandrel.core.decide.Reopened;
import jandrel.core.journal.Entry.Thing;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.Reopener;
import jandrel.store.kernel.RulesLock;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** The two lists of domains that matching knows: the company's own, and those where anybody can have an address. */
@Component
public class Company {
    private final Mapped mapper;
    private final Reopener reopened;
    private final RulesLock rules;
    private final Journal journal;

    @Mapper
    interface Mapped {
        @Select("SELECT domain FROM own_domain ORDER BY domain")
        List<String> own();

        @Select("SELECT domain FROM free_mail_domain ORDER BY domain")
        List<String> freeMail();

        @Select("SELECT domain FROM dotless_domain ORDER BY domain")
        List<String> dotless();

        @Delete("DELETE FROM dotless_domain")
        int clearDotless();

        @Insert("INSERT INTO dotless_domain SELECT unnest(#{keys})")
        int addDotless(@Param("keys") String[] keys);

        @Delete("DELETE FROM own_domain")
        int clearOwn();

        @Delete("DELETE FROM free_mail_domain")
        int clearFreeMail();

        @Insert("INSERT INTO own_domain SELECT unnest(#{keys})")
        int addOwn(@Param("keys") String[] keys);

        @Insert("INSERT INTO free_mail_domain SELECT unnest(#{keys})")
        int addFreeMail(@Param("keys") String[] keys);
    }

    Company(Mapped mapper, Reopener reopened, RulesLock rules, Journal journal) {
        this.journal = journal;
        this.mapper = mapper;
        this.reopened = reopened;
        this.rules = rules;
    }

    /** Keys with a leading {@code @}. */
    public List<String> ownDomains() {
        return mapper.own();
    }

    /** Keys with a leading {@code @}. */
    public List<String> freeMail() {
        return mapper.freeMail();
    }

    /** Domains whose provider ignores dots; keys with a leading {@code @}. */
    public List<String> dotless() {
        return mapper.dotless();
    }

    /** Takes the list of those that ignore dots as it shall be; keys with a leading {@code @}. */
    @Transactional
    public void dotless(Collection<String> dotless, String by) {
        List<String> before = mapper.dotless();
        List<Reopened> touched = Reopened.dotless(Set.copyOf(before), Set.copyOf(dotless));
        if (touched.isEmpty()) {
            return;
        }
        rules.change();
        mapper.clearDotless();
        mapper.addDotless(dotless.stream().distinct().toArray(String[]::new));
        journal.add(
                by,
                "changed",
                new Thing("company", "domains", "the domains that ignore dots"),
                Map.of("dotless", before),
                Map.of("dotless", mapper.dotless()));
        reopened.mark(touched);
    }

    /** Takes both lists as they shall be; keys with a leading {@code @}. */
    @Transactional
    public void change(Collection<String> own, Collection<String> freeMail, String by) {
        rules.change();
        Map<String, Object> before = described(mapper.own(), mapper.freeMail());
        List<Reopened> touched = reopenedBy(Set.copyOf(own), Set.copyOf(freeMail));
        mapper.clearOwn();
        mapper.addOwn(own.stream().distinct().toArray(String[]::new));
        mapper.clearFreeMail();
        mapper.addFreeMail(freeMail.stream().distinct().toArray(String[]::new));
        Map<String, Object> after = described(mapper.own(), mapper.freeMail());
        if (!before.equals(after)) {
            journal.add(
                    by, "changed", new Thing("company", "domains", "our own and the free-mail domains"), before, after);
        }
        reopened.mark(touched);
    }

    /** What would be reopened by these lists in place of those that are; keys with a leading {@code @}. */
    public List<Reopened> reopenedBy(Set<String> own, Set<String> freeMail) {
        return Reopened.domains(Set.copyOf(mapper.own()), own, Set.copyOf(mapper.freeMail()), freeMail);
    }

    private static Map<String, Object> described(List<String> own, List<String> freeMail) {
        return Map.of("own", own, "freeMail", freeMail);
    }
}

package jandrel.service.directory;

import jandrel.api.DirectoryApi.CompanyDomains;
import jandrel.api.DirectoryApi.ImportOutcome;
import jandrel.api.DirectoryApi.LineProblem;
import jandrel.core.address.DomainName;
import jandrel.core.directory.ImportRejected;
import jandrel.core.journal.Entry.Thing;
import jandrel.formats.mail.Phones;
import jandrel.formats.table.DirectoryFiles;
import jandrel.service.kernel.LargestBody;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.WakeUp;
import jandrel.service.people.SignedIn;
import jandrel.store.directory.Company;
import jandrel.store.directory.Directory;
import jandrel.store.directory.OwnFieldList;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.FileImport.Outcome;
import jandrel.store.kernel.Reopener;
import jandrel.store.people.PeopleImport;
import java.io.Reader;
import java.io.StringReader;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Takes in the directory's files, each whole or not at all. */
@RestController
class DirectoryCalls {
    private static final int LARGEST_FILE = 200 * 1024 * 1024;
    private final Directory directory;
    private final PeopleImport people;
    private final Company company;
    private final Reopener reopener;
    private final WakeUp nudges;
    private final Journal journal;
    private final TransactionTemplate transactions;
    private final Phones phones;
    private final OwnFieldList own;

    DirectoryCalls(
            Directory directory,
            PeopleImport people,
            Company company,
            Reopener reopener,
            WakeUp nudges,
            Journal journal,
            TransactionTemplate transactions,
            Phones phones,
            OwnFieldList own) {
        this.own = own;
        this.phones = phones;
        this.journal = journal;
        this.transactions = transactions;
        this.directory = directory;
        this.people = people;
        this.company = company;
        this.reopener = reopener;
        this.nudges = nudges;
    }

    /** @param kind {@code people}, {@code accounts}, {@code contacts}, {@code leads} or {@code opportunities}: those before are
     *     what those after refer to */
    @PostMapping(path = "/api/directory/{kind}", consumes = "text/csv")
    @LargestBody(kilobytes = 200 * 1024)
    ImportOutcome take(
            @PathVariable("kind") String kind, @RequestBody byte[] file, @AuthenticationPrincipal SignedIn me) {
        if (file.length > LARGEST_FILE) {
            throw Refusal.bad("The file is too large", "Split it; 200 MB is the most for one.");
        }
        try {
            Outcome outcome = taken(kind, new StringReader(utf8(file)), me);
            nudges.rulesChanged();
            return new ImportOutcome(kind, outcome.added(), outcome.updated(), outcome.unchanged(), reopener.left());
        } catch (ImportRejected misfit) {
            List<LineProblem> problems = misfit.problems().stream()
                    .map(p -> new LineProblem(p.line(), p.column(), p.reason()))
                    .toList();
            int n = problems.size();
            throw Refusal.misfit(
                    "Nothing was imported: " + misfit.getMessage(),
                    "Mend the " + (n == 1 ? "line" : n + " places") + " below and import the whole file again.",
                    problems);
        }
    }

    /** The file and its entry in the journal stand together or not at all. */
    private Outcome taken(String kind, Reader file, SignedIn me) throws ImportRejected {
        ImportRejected[] misfit = new ImportRejected[1];
        Outcome outcome = transactions.execute(t -> {
            try {
                Outcome read = read(kind, file);
                journal.add(
                        me.login(),
                        "imported",
                        new Thing("directory", kind, kind),
                        null,
                        Map.of("added", read.added(), "updated", read.updated(), "unchanged", read.unchanged()));
                return read;
            } catch (ImportRejected found) {
                misfit[0] = found;
                t.setRollbackOnly();
                return new Outcome(0, 0, 0);
            }
        });
        if (misfit[0] != null || outcome == null) {
            throw misfit[0];
        }
        return outcome;
    }

    private Outcome read(String kind, Reader file) throws ImportRejected {
        return switch (kind) {
            case "people" -> people.take(DirectoryFiles.people(file));
            case "accounts" -> directory.accounts(DirectoryFiles.accounts(file));
            case "contacts" -> directory.contacts(DirectoryFiles.contacts(file, phones, own.fields()));
            case "leads" -> directory.leads(DirectoryFiles.leads(file));
            case "opportunities" -> directory.opportunities(DirectoryFiles.opportunities(file));
            default ->
                throw Refusal.bad(
                        "There is no file of “" + kind + "”",
                        "Files are people, accounts, contacts, leads and opportunities.");
        };
    }

    static String utf8(byte[] file) {
        try {
            return StandardCharsets.UTF_8
                    .newDecoder()
                    .decode(ByteBuffer.wrap(file))
                    .toString();
        } catch (CharacterCodingException other) {
            throw Refusal.bad("The file is not UTF-8", "Save it as CSV in UTF-8, then import it again.");
        }
    }

    @GetMapping("/api/company")
    CompanyDomains domains() {
        return new CompanyDomains(bare(company.ownDomains()), bare(company.freeMail()), bare(company.dotless()));
    }

    @PutMapping("/api/company")
    @LargestBody(kilobytes = 2048)
    CompanyDomains change(@RequestBody CompanyDomains wanted, @AuthenticationPrincipal SignedIn me) {
        List<LineProblem> problems = new ArrayList<>();
        List<String> own = keys(wanted.own(), "own", problems);
        List<String> freeMail = keys(wanted.freeMail(), "freeMail", problems);
        List<String> dotless = wanted.dotless() == null ? null : keys(wanted.dotless(), "dotless", problems);
        if (!problems.isEmpty()) {
            throw Refusal.misfit(
                    "Nothing was changed: some of these are no domain names", "Mend those below.", problems);
        }
        company.change(own, freeMail, me.login());
        if (dotless != null) {
            company.dotless(dotless, me.login());
        }
        nudges.rulesChanged();
        return domains();
    }

    private static List<String> keys(List<String> domains, String column, List<LineProblem> problems) {
        List<String> keys = new ArrayList<>();
        for (int i = 0; i < domains.size(); i++) {
            int line = i + 1;
            String text = domains.get(i);
            DomainName.parse(text)
                    .ifPresentOrElse(
                            d -> keys.add(d.key()),
                            () -> problems.add(new LineProblem(line, column, "“" + text + "” is not a domain name")));
        }
        return keys;
    }

    private static List<String> bare(List<String> keys) {
        return keys.stream().map(k -> k.substring(1)).toList();
    }
}

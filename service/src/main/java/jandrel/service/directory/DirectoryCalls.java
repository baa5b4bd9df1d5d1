package jandrel.service.directory;

import jandrel.api.Directories.CompanyDomains;
import jandrel.api.Directories.ImportOutcome;
import jandrel.api.Directories.LineProblem;
import jandrel.core.address.DomainName;
import jandrel.core.directory.Misfit;
import jandrel.formats.table.DirectoryFiles;
import jandrel.service.Refusal;
import jandrel.service.capture.Nudges;
import jandrel.store.Company;
import jandrel.store.Directory;
import jandrel.store.Directory.Outcome;
import jandrel.store.Reconsidering;
import java.io.Reader;
import java.io.StringReader;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
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
    private final Company company;
    private final Reconsidering reconsidering;
    private final Nudges nudges;

    DirectoryCalls(Directory directory, Company company, Reconsidering reconsidering, Nudges nudges) {
        this.directory = directory;
        this.company = company;
        this.reconsidering = reconsidering;
        this.nudges = nudges;
    }

    /** @param kind {@code people}, {@code accounts}, {@code contacts} or {@code opportunities}, in which order they refer to each other */
    @PostMapping(path = "/api/directory/{kind}", consumes = "text/csv")
    ImportOutcome take(@PathVariable("kind") String kind, @RequestBody byte[] file) {
        if (file.length > LARGEST_FILE) {
            throw Refusal.bad("The file is too large", "Split it; 200 MB is the most for one.");
        }
        try {
            Outcome outcome = read(kind, new StringReader(utf8(file)));
            nudges.rulesChanged();
            return new ImportOutcome(
                    kind, outcome.added(), outcome.updated(), outcome.unchanged(), reconsidering.left());
        } catch (Misfit misfit) {
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

    private Outcome read(String kind, Reader file) throws Misfit {
        return switch (kind) {
            case "people" -> directory.people(DirectoryFiles.people(file));
            case "accounts" -> directory.accounts(DirectoryFiles.accounts(file));
            case "contacts" -> directory.contacts(DirectoryFiles.contacts(file));
            case "opportunities" -> directory.opportunities(DirectoryFiles.opportunities(file));
            default ->
                throw Refusal.bad(
                        "There is no file of “" + kind + "”",
                        "Files are people, accounts, contacts and opportunities.");
        };
    }

    private static String utf8(byte[] file) {
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
        return new CompanyDomains(bare(company.ownDomains()), bare(company.freeMail()));
    }

    @PutMapping("/api/company")
    CompanyDomains change(@RequestBody CompanyDomains wanted) {
        List<LineProblem> problems = new ArrayList<>();
        List<String> own = keys(wanted.own(), "own", problems);
        List<String> freeMail = keys(wanted.freeMail(), "freeMail", problems);
        if (!problems.isEmpty()) {
            throw Refusal.misfit(
                    "Nothing was changed: some of these are no domain names", "Mend those below.", problems);
        }
        company.change(own, freeMail);
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

package jandrel.service.people;

import jandrel.api.SingleSignOnApi.PasswordRule;
import jandrel.core.journal.Entry.Thing;
import jandrel.core.visibility.Role;
import jandrel.service.kernel.Refusal;
import jandrel.store.journal.Journal;
import jandrel.store.people.IdentityProviders;
import jandrel.store.people.PasswordRules;
import jandrel.store.people.SignIns;
import jandrel.store.people.SignIns.SignIn;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Whether passwords open anything, and what administrators need besides. */
@RestController
class PasswordRuleCalls {
    private final PasswordRules passwordRules;
    private final IdentityProviders providers;
    private final SignIns signIns;
    private final Journal journal;

    PasswordRuleCalls(PasswordRules passwordRules, IdentityProviders providers, SignIns signIns, Journal journal) {
        this.passwordRules = passwordRules;
        this.providers = providers;
        this.signIns = signIns;
        this.journal = journal;
    }

    @GetMapping("/api/password-rule")
    PasswordRule rule() {
        return new PasswordRule(
                passwordRules.allowed(), passwordRules.emergency(), passwordRules.administratorsNeedCodes());
    }

    /** Without passwords somebody has to get in still when the provider does not answer. */
    @PutMapping("/api/password-rule")
    @Transactional
    public PasswordRule rule(@RequestBody PasswordRule wanted, @AuthenticationPrincipal SignedIn me) {
        List<SignIn> emergency = wanted.emergency().stream()
                .map(login -> signIns.find(login)
                        .filter(s -> s.role().equals(Role.ADMINISTRATOR.name())
                                && s.endedAt() == null
                                && s.password() != null
                                && !s.temporary())
                        .orElseThrow(refusal(login)))
                .toList();
        if (!wanted.allowed() && (emergency.isEmpty() || providers.all().isEmpty())) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "Nobody could sign in when the provider does not answer",
                    "Add a provider, and name an administrator who has a password.");
        }
        PasswordRule before = rule();
        passwordRules.clear();
        emergency.forEach(s -> passwordRules.name(s.id()));
        passwordRules.allow(wanted.allowed(), Boolean.TRUE.equals(wanted.administratorsNeedCodes()));
        PasswordRule now = rule();
        if (!now.equals(before)) {
            journal.add(me.login(), "changed", new Thing("sign-in", "passwords", "passwords"), told(before), told(now));
        }
        return now;
    }

    private static Map<String, Object> told(PasswordRule rule) {
        return Map.of(
                "allowed",
                rule.allowed(),
                "emergency",
                rule.emergency(),
                "administratorsNeedCodes",
                Boolean.TRUE.equals(rule.administratorsNeedCodes()));
    }

    private static Supplier<Refusal> refusal(String login) {
        return () -> Refusal.bad(
                "“" + login + "” is no administrator with a password of their own",
                "Only such a one gets in when nobody else does.");
    }
}

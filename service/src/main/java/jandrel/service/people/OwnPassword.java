package jandrel.service.people;

import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.Secrets;
import jandrel.store.journal.Journal;
import jandrel.store.people.SignInAttempts;
import jandrel.store.people.SignInLinks;
import jandrel.store.people.SignInTokens;
import jandrel.store.people.SignIns;
import jandrel.store.people.SignIns.SignIn;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** A password is chosen by its owner alone; every other session ends with the one before. */
@Component
class OwnPassword {
    private final Tokens proving;
    private final TransactionTemplate transactions;
    private final SignIns signIns;
    private final SignInTokens tokens;
    private final SignInLinks links;
    private final SignInAttempts attempts;
    private final SignInByMail byMail;
    private final Passwords passwords;
    private final SignInLetters letters;
    private final Journal journal;

    OwnPassword(
            Tokens proving,
            TransactionTemplate transactions,
            SignIns signIns,
            SignInTokens tokens,
            SignInLinks links,
            SignInAttempts attempts,
            SignInByMail byMail,
            Passwords passwords,
            SignInLetters letters,
            Journal journal) {
        this.proving = proving;
        this.transactions = transactions;
        this.signIns = signIns;
        this.tokens = tokens;
        this.links = links;
        this.attempts = attempts;
        this.byMail = byMail;
        this.passwords = passwords;
        this.letters = letters;
        this.journal = journal;
    }

    /**
     * By who is signed in. Wrong ones are counted as if somebody signed in.
     *
     * @param token of the session that stays
     * @param address where the call comes from
     */
    void change(SignedIn me, String token, String address, String current, String wanted) {
        SignIn signIn = proven(me, address, current);
        if (current.equals(wanted)) {
            throw Refusal.bad("This is the password you have", "Choose another one.");
        }
        String hash = checked(signIn, wanted);
        transactions.executeWithoutResult(t -> {
            set(signIn, hash);
            tokens.removeOthers(signIn.id(), Secrets.hash(token));
            links.remove(signIn.id());
            letters.changed(signIn);
        });
    }

    /** @throws Refusal when it is not their password; wrong ones are counted as if somebody signed in */
    SignIn proven(SignedIn me, String address, String current) {
        return proving.prove(address, me.login(), current, "")
                .orElseThrow(() -> Refusal.bad("The current password is wrong", "Capitals count."))
                .signIn();
    }

    /**
     * By who holds a link that came by mail.
     *
     * @param code of the second factor; empty for none
     * @return whose it is
     */
    SignIn byLink(String secret, String wanted, String code) {
        SignInByMail.Opened opened = byMail.open(secret);
        SignIn signIn = opened.signIn();
        proving.needsPasswords(signIn);
        String hash = checked(signIn, wanted);
        proving.secondFactor(signIn, code);
        transactions.executeWithoutResult(t -> {
            // somebody who comes at the same moment finds it used
            byMail.use(secret);
            set(signIn, hash);
            tokens.removeAll(signIn.id());
            attempts.removeDevices(signIn.id());
            if (opened.link().purpose().equals(SignInByMail.RESET)) {
                letters.changed(signIn);
            }
        });
        return signIn.withPassword(hash, false);
    }

    /** Its hash, made before any transaction: hashing takes long. */
    private String checked(SignIn signIn, String wanted) {
        passwords.check(wanted, signIn.login(), signIn.name(), "jandrel");
        return passwords.hash(wanted);
    }

    private void set(SignIn signIn, String hash) {
        boolean claimed = signIn.password() == null || signIn.temporary();
        if (signIns.password(signIn.id(), hash) == 0) {
            throw Refusal.notFound("sign-in");
        }
        journal.add(
                signIn.login(), claimed ? "claimed" : "set the password of", SignInByMail.thing(signIn), null, null);
    }
}

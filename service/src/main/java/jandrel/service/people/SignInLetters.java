package jandrel.service.people;

import jandrel.service.kernel.Settings;
import jandrel.store.people.People;
import jandrel.store.people.SignIns.SignIn;
import java.util.Optional;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;

/** What people are told of their own sign-in by mail. */
@Component
class SignInLetters {
    private final People people;
    private final Settings settings;
    private final ApplicationEventPublisher events;

    SignInLetters(People people, Settings settings, ApplicationEventPublisher events) {
        this.people = people;
        this.settings = settings;
        this.events = events;
    }

    boolean canBeSent() {
        return !settings.smtp().host().isEmpty();
    }

    /** Where they are told; nothing for those who are nobody of the company's, or have no address. */
    Optional<String> address(SignIn signIn) {
        return Optional.ofNullable(signIn.person())
                .flatMap(people::one)
                .map(People.Person::writesAs)
                .filter(a -> !a.isEmpty());
    }

    void invited(SignIn signIn, String link, String by) {
        send(
                signIn,
                "Your sign-in for Jandrel",
                by + " invites you to Jandrel, which keeps your customers’ timelines from mail and calendars.\r\n"
                        + "Choose a password here; this works once, within seven days:\r\n\r\n"
                        + address("/welcome#" + link)
                        + "\r\n\r\nYour login is " + signIn.login()
                        + ". If you did not expect this, do nothing, and tell your administrator.");
    }

    /** Where passwords open nothing. */
    void invitedElsewhere(SignIn signIn, String by) {
        send(
                signIn,
                "Your sign-in for Jandrel",
                by + " invites you to Jandrel, which keeps your customers’ timelines from mail and calendars.\r\n"
                        + "Sign in with your company’s account, as " + signIn.login() + ":\r\n\r\n"
                        + address("/sign-in")
                        + "\r\n\r\nIf you did not expect this, do nothing, and tell your administrator.");
    }

    /** Nobody else's account at a provider opens somebody's sign-in without their knowing. */
    void tied(SignIn signIn, String provider) {
        send(
                signIn,
                "Jandrel: you signed in with " + provider,
                "your sign-in " + signIn.login() + " is opened by your account at " + provider
                        + " from now on.\r\nIf it was not you who signed in just now, tell your administrator at once.\r\n\r\n"
                        + address(""));
    }

    void forgotten(SignIn signIn, String link) {
        send(
                signIn,
                "Jandrel: set a new password",
                "somebody asked for a new password for your sign-in " + signIn.login()
                        + ".\r\nIf it was you, choose one here; this works once, within an hour:\r\n\r\n"
                        + address("/welcome#" + link)
                        + "\r\n\r\nIf it was not, do nothing: your password stays as it is.");
    }

    /** Nobody gets a sign-in in somebody's name without their knowing. */
    void added(SignIn signIn, String by) {
        send(
                signIn,
                "Jandrel: a sign-in in your name",
                by + " added the sign-in " + signIn.login()
                        + " to Jandrel in your name, with a password that is good for"
                        + " choosing your own and for nothing else.\r\nAnyone who uses it can read what you can read there. If you"
                        + " did not expect this, tell your administrator and the person in charge of data protection.\r\n\r\n"
                        + address(""));
    }

    /** @param on else it was switched off */
    void secondFactor(SignIn signIn, boolean on) {
        send(
                signIn,
                on ? "Jandrel: signing in takes a code now" : "Jandrel: signing in takes no code any more",
                "the second factor of your sign-in " + signIn.login() + " was " + (on ? "set up" : "switched off")
                        + ".\r\nIf it was not you, and you did not ask for it, tell your administrator at once.\r\n\r\n"
                        + address("/account"));
    }

    void changed(SignIn signIn) {
        send(
                signIn,
                "Jandrel: your password was changed",
                "the password of your sign-in " + signIn.login()
                        + " was changed, and every other session was ended.\r\nIf it was not you, set a new one at once: \r\n\r\n"
                        + address("/sign-in"));
    }

    private String address(String path) {
        return settings.publicUrl() + path;
    }

    private void send(SignIn signIn, String subject, String text) {
        address(signIn)
                .ifPresent(to -> events.publishEvent(new SignInLetter(
                        to,
                        subject,
                        "Hello " + signIn.name() + ",\r\n\r\n" + text + "\r\n",
                        "sign-in " + signIn.id())));
    }
}

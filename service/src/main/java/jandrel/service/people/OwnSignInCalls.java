package jandrel.service.people;

import io.swagger.v3.oas.annotations.Parameter;
import jakarta.servlet.http.HttpServletRequest;
import jandrel.api.SessionApi.NewToken;
import jandrel.api.SessionApi.OwnCode;
import jandrel.api.SessionApi.OwnProof;
import jandrel.api.SessionApi.PasswordChange;
import jandrel.api.SessionApi.RecoveryCodes;
import jandrel.api.SessionApi.SecondFactorBegun;
import jandrel.api.SessionApi.SecondFactorInfo;
import jandrel.api.SessionApi.SessionInfo;
import jandrel.api.SessionApi.Token;
import jandrel.service.kernel.Refusal;
import jandrel.store.people.SignIns;
import jandrel.store.people.SignIns.SignIn;
import java.util.List;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What everybody does with their own sign-in: its password, its sessions and its tokens. */
@RestController
class OwnSignInCalls {
    private final OwnPassword ownPassword;
    private final SignInSessions sessions;
    private final SignIns signIns;
    private final SecondFactorCodes secondFactors;

    OwnSignInCalls(OwnPassword ownPassword, SignInSessions sessions, SignIns signIns, SecondFactorCodes secondFactors) {
        this.secondFactors = secondFactors;
        this.ownPassword = ownPassword;
        this.sessions = sessions;
        this.signIns = signIns;
    }

    /** Every other session ends. */
    @PutMapping("/api/session/password")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void password(
            @RequestBody PasswordChange change, HttpServletRequest request, @AuthenticationPrincipal SignedIn me) {
        ownPassword.change(
                me,
                TokenFilter.token(request).orElseThrow(),
                request.getRemoteAddr(),
                change.current(),
                change.wanted());
    }

    @GetMapping("/api/session/second-factor")
    SecondFactorInfo secondFactor(@AuthenticationPrincipal SignedIn me) {
        return new SecondFactorInfo(secondFactors.isOn(me.id()), secondFactors.codesLeft(me.id()));
    }

    /** Begins to set up the second factor; a code that is given back shows that it works. */
    @PostMapping("/api/session/second-factor")
    SecondFactorBegun beginSecondFactor(
            @RequestBody OwnProof proof, HttpServletRequest request, @AuthenticationPrincipal SignedIn me) {
        SecondFactorCodes.Begun begun =
                secondFactors.begin(ownPassword.proven(me, request.getRemoteAddr(), proof.password()));
        return new SecondFactorBegun(begun.secret(), begun.address());
    }

    @PutMapping("/api/session/second-factor")
    RecoveryCodes confirm(@RequestBody OwnCode given, @AuthenticationPrincipal SignedIn me) {
        return new RecoveryCodes(secondFactors.confirm(own(me), given.code()));
    }

    /** A phone that is lost is none that somebody may switch it off with alone. */
    @PostMapping("/api/session/second-factor/removal")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void noSecondFactor(@RequestBody OwnProof proof, HttpServletRequest request, @AuthenticationPrincipal SignedIn me) {
        secondFactors.remove(ownPassword.proven(me, request.getRemoteAddr(), proof.password()), me.login());
    }

    private SignIn own(SignedIn me) {
        return signIns.one(me.id()).orElseThrow(() -> Refusal.notFound("sign-in"));
    }

    @GetMapping("/api/session/tokens")
    List<SessionInfo> mine(@AuthenticationPrincipal SignedIn me, @Parameter(hidden = true) Authentication how) {
        return sessions.of(me.id(), SessionCalls.holder(how).token());
    }

    /** A token for a program of one's own; it may never do more than one may oneself. */
    @PostMapping("/api/session/tokens")
    @ResponseStatus(HttpStatus.CREATED)
    Token make(@RequestBody NewToken wanted, @AuthenticationPrincipal SignedIn me) {
        return sessions.make(own(me), wanted, me.login());
    }

    @DeleteMapping("/api/session/tokens/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void end(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        sessions.end(own(me), id, me.login());
    }
}

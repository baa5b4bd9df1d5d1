package jandrel.service.people;

import com.nimbusds.jose.jwk.JWKSet;
import com.nimbusds.oauth2.sdk.ResponseType;
import com.nimbusds.oauth2.sdk.pkce.CodeChallengeMethod;
import com.nimbusds.openid.connect.sdk.op.OIDCProviderMetadata;
import jandrel.api.ConnectionApi.CheckedStep;
import java.util.ArrayList;
import java.util.List;
import org.springframework.stereotype.Component;

/** Tries a provider step by step, and says of the first step that fails what to do. */
@Component
class ProviderTrial {
    private final ProviderLookup lookup;

    ProviderTrial(ProviderLookup lookup) {
        this.lookup = lookup;
    }

    List<CheckedStep> of(String issuer) {
        List<CheckedStep> steps = new ArrayList<>();
        try {
            OIDCProviderMetadata metadata = lookup.metadata(issuer);
            steps.add(new CheckedStep("issuer", true, "it answers, and names itself " + metadata.getIssuer()));
            JWKSet keys = lookup.keys(metadata);
            long signing = keys.getKeys().stream()
                    .filter(k -> !k.isPrivate() && !com.nimbusds.jose.jwk.KeyType.OCT.equals(k.getKeyType()))
                    .count();
            steps.add(new CheckedStep(
                    "keys",
                    signing > 0,
                    signing > 0
                            ? "it signs with " + (signing == 1 ? "one key" : signing + " keys")
                            : "it shows no key that signs"));
            steps.add(flow(metadata));
            steps.add(new CheckedStep(
                    "sign-out",
                    true,
                    metadata.getEndSessionEndpointURI() == null
                            ? "signing out here does not sign people out there: it names no place for it"
                            : "signing out here signs people out there, too"));
        } catch (SignOnRefused refused) {
            steps.add(
                    new CheckedStep(steps.isEmpty() ? "issuer" : "keys", false, String.valueOf(refused.getMessage())));
        } catch (IllegalArgumentException none) {
            steps.add(new CheckedStep("issuer", false, "it is no https address"));
        }
        return steps;
    }

    private static CheckedStep flow(OIDCProviderMetadata metadata) {
        List<ResponseType> types = metadata.getResponseTypes();
        if (types == null || !types.contains(ResponseType.CODE)) {
            return new CheckedStep("codes", false, "it does not offer authorisation codes (response type “code”)");
        }
        List<CodeChallengeMethod> methods = metadata.getCodeChallengeMethods();
        return new CheckedStep(
                "codes",
                true,
                methods != null && methods.contains(CodeChallengeMethod.S256)
                        ? "authorisation codes with PKCE"
                        : "authorisation codes; it does not say whether it checks PKCE");
    }
}

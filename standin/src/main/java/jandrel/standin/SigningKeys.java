package jandrel.standin;

import com.nimbusds.jose.JOSEException;
import com.nimbusds.jose.jwk.JWK;
import com.nimbusds.jose.jwk.JWKSelector;
import com.nimbusds.jose.jwk.JWKSet;
import com.nimbusds.jose.jwk.RSAKey;
import com.nimbusds.jose.jwk.gen.RSAKeyGenerator;
import com.nimbusds.jose.jwk.source.JWKSource;
import com.nimbusds.jose.proc.SecurityContext;
import java.util.List;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** The key that signs, which may be put in place of another at any time. */
@Component
class SigningKeys implements JWKSource<SecurityContext> {
    private volatile RSAKey key = fresh();

    static RSAKey fresh() {
        try {
            return new RSAKeyGenerator(2048).keyID(UUID.randomUUID().toString()).generate();
        } catch (JOSEException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    void rotate() {
        key = fresh();
    }

    @Override
    public List<JWK> get(JWKSelector selector, SecurityContext context) {
        return selector.select(new JWKSet(key));
    }

    RSAKey current() {
        return key;
    }
}

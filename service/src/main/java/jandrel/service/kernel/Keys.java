package jandrel.service.kernel;

import com.google.crypto.tink.Aead;
import com.google.crypto.tink.InsecureSecretKeyAccess;
import com.google.crypto.tink.KeysetHandle;
import com.google.crypto.tink.RegistryConfiguration;
import com.google.crypto.tink.TinkJsonProtoKeysetFormat;
import com.google.crypto.tink.aead.AeadConfig;
import com.google.crypto.tink.aead.PredefinedAeadParameters;
import jandrel.store.kernel.Installation;
import jandrel.store.kernel.ItemKeys;
import java.io.IOException;
import java.nio.charset.CharacterCodingException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.SecureRandom;
import java.util.Base64;
import java.util.List;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.ApplicationRunner;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The installation's keys: a file outside the database, readable by the service's user alone. */
@Configuration(proxyBeanMethods = false)
class Keys {
    private record Both(KeysetHandle vault, byte[] hashing) {}

    private final Both both;

    /** Whether it may be made here is found out before, by {@link StartUp}. */
    @Autowired
    Keys(Settings settings) throws IOException, GeneralSecurityException {
        this(settings.keyFile().toAbsolutePath());
    }

    private Keys(Path file) throws IOException, GeneralSecurityException {
        AeadConfig.register();
        both = Files.exists(file) ? read(file) : make(file);
    }

    /** Of a file that is there. */
    static Keys of(Path file) throws IOException, GeneralSecurityException {
        return new Keys(file);
    }

    @Bean
    ApplicationRunner keyCheck(Installation installation) {
        return arguments -> installation.belongsTo(itemKeys().check());
    }

    @Bean
    Vault vault() throws GeneralSecurityException {
        return new Vault(both.vault().getPrimitive(RegistryConfiguration.get(), Aead.class));
    }

    @Bean
    ItemKeys itemKeys() {
        return new ItemKeys(both.hashing());
    }

    @Bean
    SealedStreams sealedStreams() throws GeneralSecurityException {
        return new SealedStreams(both.hashing(), itemKeys().check());
    }

    private static Both read(Path file) throws IOException, GeneralSecurityException {
        try {
            List<String> lines = Files.readAllLines(file);
            return new Both(
                    TinkJsonProtoKeysetFormat.parseKeyset(
                            lines.get(1), RegistryConfiguration.get(), InsecureSecretKeyAccess.get()),
                    Base64.getDecoder().decode(lines.get(0)));
        } catch (GeneralSecurityException | RuntimeException | CharacterCodingException damaged) {
            throw new GeneralSecurityException("the key file " + file + " is not one of ours, or is damaged", damaged);
        }
    }

    private static Both make(Path file) throws IOException, GeneralSecurityException {
        byte[] hashing = new byte[32];
        new SecureRandom().nextBytes(hashing);
        KeysetHandle vault = KeysetHandle.generateNew(PredefinedAeadParameters.AES256_GCM, RegistryConfiguration.get());
        String text = Base64.getEncoder().encodeToString(hashing) + "\n"
                + TinkJsonProtoKeysetFormat.serializeKeyset(
                                vault, RegistryConfiguration.get(), InsecureSecretKeyAccess.get())
                        .replace("\n", "")
                + "\n";
        PrivateFiles.write(file, text);
        return new Both(vault, hashing);
    }
}

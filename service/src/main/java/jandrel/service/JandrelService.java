package jandrel.service;

import jandrel.formats.mail.Phones;
import jandrel.service.kernel.Settings;
import jandrel.service.kernel.StartUp;
import jandrel.service.retention.TakingIn;
import jandrel.store.StoreConfiguration;
import java.time.Clock;
import org.springframework.boot.SpringApplication;
import org.springframework.boot.autoconfigure.SpringBootApplication;
import org.springframework.boot.context.properties.ConfigurationPropertiesScan;
import org.springframework.boot.security.autoconfigure.UserDetailsServiceAutoConfiguration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Import;

/** Starts the service. */
@SpringBootApplication(exclude = UserDetailsServiceAutoConfiguration.class, proxyBeanMethods = false)
@ConfigurationPropertiesScan
@Import(StoreConfiguration.class)
public class JandrelService {
    public static void main(String[] arguments) {
        SpringApplication application = new SpringApplication(JandrelService.class);
        application.addListeners(new StartUp(TakingIn::takeIn));
        application.run(arguments);
    }

    @Bean
    Clock clock() {
        return Clock.systemUTC();
    }

    @Bean
    Phones phones(Settings settings) {
        return new Phones(settings.country());
    }
}

package jandrel.standin;

import java.time.Duration;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.annotation.Order;
import org.springframework.security.config.Customizer;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.core.userdetails.User;
import org.springframework.security.core.userdetails.UserDetailsService;
import org.springframework.security.crypto.factory.PasswordEncoderFactories;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.oauth2.core.AuthorizationGrantType;
import org.springframework.security.oauth2.core.ClientAuthenticationMethod;
import org.springframework.security.oauth2.core.oidc.OidcScopes;
import org.springframework.security.oauth2.server.authorization.client.InMemoryRegisteredClientRepository;
import org.springframework.security.oauth2.server.authorization.client.RegisteredClient;
import org.springframework.security.oauth2.server.authorization.client.RegisteredClientRepository;
import org.springframework.security.oauth2.server.authorization.settings.AuthorizationServerSettings;
import org.springframework.security.oauth2.server.authorization.settings.ClientSettings;
import org.springframework.security.oauth2.server.authorization.settings.OAuth2TokenFormat;
import org.springframework.security.oauth2.server.authorization.settings.TokenSettings;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.authentication.LoginUrlAuthenticationEntryPoint;

/** Codes with PKCE, refresh tokens, introspection, metadata; every made-up person has the same password. */
@Configuration(proxyBeanMethods = false)
class AuthorisationServer {

    @Bean
    @Order(1)
    SecurityFilterChain protocol(HttpSecurity http, OrganisationGrant organisation, Lies lies) throws Exception {
        http.oauth2AuthorizationServer(server -> {
            http.securityMatcher(server.getEndpointsMatcher());
            server.oidc(Customizer.withDefaults());
            server.tokenEndpoint(t -> t.accessTokenResponseHandler(lies));
        });
        http.authorizeHttpRequests(a -> a.anyRequest().authenticated());
        http.csrf(c -> c.disable());
        http.exceptionHandling(e -> e.authenticationEntryPoint(new LoginUrlAuthenticationEntryPoint("/login")));
        http.addFilterBefore(organisation, org.springframework.security.web.context.SecurityContextHolderFilter.class);
        return http.build();
    }

    @Bean
    @Order(2)
    SecurityFilterChain people(HttpSecurity http) throws Exception {
        http.authorizeHttpRequests(a -> a.requestMatchers("/dav/**", "/stand/**", "/error")
                .permitAll()
                .anyRequest()
                .authenticated());
        http.csrf(c -> c.ignoringRequestMatchers("/dav/**", "/stand/**"));
        http.formLogin(Customizer.withDefaults());
        return http.build();
    }

    @Bean
    PasswordEncoder passwords() {
        return PasswordEncoderFactories.createDelegatingPasswordEncoder();
    }

    @Bean
    UserDetailsService everybody(@Value("${STANDIN_PASSWORD}") String password) {
        return name -> User.withUsername(name).password("{noop}" + password).build();
    }

    @Bean
    RegisteredClientRepository clients(
            @Value("${STANDIN_REDIRECT}") String redirect,
            @Value("${STANDIN_SIGN_ON_REDIRECT:${STANDIN_REDIRECT}}") String signOnRedirect) {
        RegisteredClient service = RegisteredClient.withId("1")
                .clientId(OrganisationGrant.CLIENT)
                .clientAuthenticationMethod(ClientAuthenticationMethod.CLIENT_SECRET_BASIC)
                .clientSecret("{noop}client-lights-26")
                .authorizationGrantType(AuthorizationGrantType.AUTHORIZATION_CODE)
                .authorizationGrantType(AuthorizationGrantType.REFRESH_TOKEN)
                .authorizationGrantType(AuthorizationGrantType.JWT_BEARER)
                .redirectUri(redirect)
                .scope("mail")
                .scope("calendar")
                .clientSettings(ClientSettings.builder()
                        .requireAuthorizationConsent(true)
                        .requireProofKey(true)
                        .build())
                .tokenSettings(TokenSettings.builder()
                        .accessTokenFormat(OAuth2TokenFormat.REFERENCE)
                        .accessTokenTimeToLive(Duration.ofSeconds(65))
                        .build())
                .build();
        RegisteredClient signOn = RegisteredClient.withId("3")
                .clientId("jandrel-console")
                .clientSecret("{noop}console-lights-26")
                .clientAuthenticationMethod(ClientAuthenticationMethod.CLIENT_SECRET_BASIC)
                .authorizationGrantType(AuthorizationGrantType.AUTHORIZATION_CODE)
                .redirectUri(signOnRedirect)
                .postLogoutRedirectUri(signOnRedirect.replaceFirst("/api/.*", "/sign-in"))
                .scope(OidcScopes.OPENID)
                .scope(OidcScopes.EMAIL)
                .scope(OidcScopes.PROFILE)
                .clientSettings(ClientSettings.builder().requireProofKey(true).build())
                .build();
        RegisteredClient mailServer = RegisteredClient.withId("2")
                .clientId("dovecot")
                .clientSecret("{noop}introspect-26")
                .clientAuthenticationMethod(ClientAuthenticationMethod.CLIENT_SECRET_BASIC)
                .authorizationGrantType(AuthorizationGrantType.CLIENT_CREDENTIALS)
                .build();
        return new InMemoryRegisteredClientRepository(service, signOn, mailServer);
    }

    @Bean
    AuthorizationServerSettings addresses(@Value("${STANDIN_PUBLIC_PORT:${STANDIN_PORT}}") int port) {
        return AuthorizationServerSettings.builder()
                .issuer("https://127.0.0.1:" + port)
                .build();
    }
}

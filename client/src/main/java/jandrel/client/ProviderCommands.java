package jandrel.client;

import jandrel.api.ConnectionApi.CheckOutcome;
import jandrel.api.SingleSignOnApi.NewProvider;
import jandrel.api.SingleSignOnApi.PasswordRule;
import jandrel.api.SingleSignOnApi.ProviderInfo;
import jandrel.api.SingleSignOnApi.RoleOfGroup;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Single sign-on: the providers, and whether passwords open anything besides. */
final class ProviderCommands {
    private static final String PATH = "/api/providers";

    private ProviderCommands() {}

    @Command(name = "providers", description = "Where people sign in with their company account (OpenID Connect).")
    static final class All extends Ask {
        @Override
        public Integer call() {
            List<ProviderInfo> all = List.of(main().http().get(PATH, Map.of(), ProviderInfo[].class));
            if (out().json()) {
                out().objects(all);
                return all.isEmpty() ? Trouble.NO : 0;
            }
            Table table = new Table("name", "issuer", "client id", "roles by group", ">people");
            for (ProviderInfo p : all) {
                table.row(p.name(), p.issuer(), p.clientId(), roles(p), p.people());
            }
            return listed(out(), table, all.size(), all.size(), "providers");
        }

        private static String roles(ProviderInfo p) {
            return p.roles().isEmpty()
                    ? "as in the directory"
                    : p.roles().stream().map(r -> r.group() + ": " + r.role()).collect(Collectors.joining(", "))
                            + ", else: " + (p.otherwise().equals("none") ? "no way in" : p.otherwise());
        }
    }

    @Command(
            name = "add-provider",
            description =
                    "Adds a provider, once it has been tried; its client's secret is asked for, or taken from JANDREL_CLIENT_SECRET.")
    static final class Add extends Ask {
        @Parameters(paramLabel = "NAME", description = "As people know it.")
        private String name = "";

        @Option(names = "--issuer", required = true, description = "Its https address, exactly as it names itself.")
        private String issuer = "";

        @Option(names = "--client-id", required = true, description = "What it knows this service by.")
        private String clientId = "";

        @Option(names = "--no-secret", description = "The client has none.")
        private boolean noSecret;

        @Option(
                names = "--role",
                paramLabel = "GROUP=ROLE",
                description = "The role of a group's people; without any, as in the directory.")
        private Map<String, String> roles = Map.of();

        @Option(names = "--groups-claim", description = "The claim that names somebody's groups; groups if not given.")
        private String claim = "";

        @Option(
                names = "--otherwise",
                description = "The role of everybody else, or none for no way in; rep if not given.")
        private String otherwise = "rep";

        @Override
        public Integer call() {
            NewProvider wanted = new NewProvider(
                    name,
                    issuer,
                    clientId,
                    noSecret ? "" : Typed.secret(main(), "JANDREL_CLIENT_SECRET", "Client secret: "),
                    claim,
                    roles.entrySet().stream()
                            .map(e -> new RoleOfGroup(e.getKey(), e.getValue()))
                            .toList(),
                    otherwise);
            CheckOutcome checked = main().http().send("POST", PATH + "/check", wanted, CheckOutcome.class);
            checked.steps().forEach(s -> out().say((s.passed() ? "  " : "! ") + s.step() + ": " + s.says()));
            if (!checked.passed()) {
                throw new Trouble(Trouble.NO, "the provider is not added: see what stands behind “!”");
            }
            ProviderInfo added = main().http().send("POST", PATH, wanted, ProviderInfo.class);
            out().say(added.name() + " is added. Tell it where its answers go: " + added.redirect());
            return 0;
        }
    }

    @Command(name = "remove-provider", description = "Removes a provider: whom it let in is signed out.")
    static final class Remove extends Ask {
        @Parameters(paramLabel = "NAME", description = "As “jandrel providers” lists it.")
        private String name = "";

        @Override
        public Integer call() {
            ProviderInfo provider = Arrays.stream(main().http().get(PATH, Map.of(), ProviderInfo[].class))
                    .filter(p -> p.name().equalsIgnoreCase(name))
                    .findFirst()
                    .orElseThrow(() -> new Trouble(
                            Trouble.NO, "there is no provider “" + name + "”; “jandrel providers” lists them"));
            main().http().send("DELETE", PATH + "/" + provider.id());
            out().say(provider.name() + " opens nothing any more.");
            return 0;
        }
    }

    @Command(
            name = "password-sign-in",
            description = "Says whether everybody may sign in with a password, or changes it: on, or off.")
    static final class Passwords extends Ask {
        private static final String RULE = "/api/password-rule";

        @Parameters(paramLabel = "on|off", arity = "0..1", description = "What it shall be.")
        private String wanted = "";

        @Option(
                names = "--but",
                split = ",",
                paramLabel = "LOGIN",
                description = "With off: administrators who still may, for when the provider does not answer.")
        private List<String> emergency = List.of();

        @Override
        public Integer call() {
            if (!List.of("", "on", "off").contains(wanted)
                    || (wanted.equals("off") == emergency.isEmpty() && !wanted.isEmpty())) {
                throw new Trouble(Trouble.USE, "say on, or off --but LOGIN");
            }
            PasswordRule rule = wanted.isEmpty()
                    ? main().http().get(RULE, Map.of(), PasswordRule.class)
                    : main().http()
                            .send("PUT", RULE, new PasswordRule(wanted.equals("on"), emergency), PasswordRule.class);
            if (out().json()) {
                out().objects(List.of(rule));
            } else {
                out().say(
                                rule.allowed()
                                        ? "Everybody may sign in with a password."
                                        : "Passwords open nothing, but for " + String.join(", ", rule.emergency())
                                                + ".");
            }
            return 0;
        }
    }
}

package jandrel.client;

import jandrel.api.PolicyApi.PolicyInfo;
import java.util.List;
import java.util.Map;
import picocli.CommandLine.Parameters;

/** A command about one policy. */
abstract class OnePolicy extends Ask {
    @Parameters(paramLabel = "POLICY", description = "Its name.")
    String name = "";

    final PolicyInfo policy() {
        return find(main().http(), name);
    }

    final int say(PolicyInfo p) {
        if (out().json()) {
            out().objects(List.of(p));
            return 0;
        }
        out().say("Policy “" + p.rules().name() + "”, version " + p.version() + ", "
                + (p.archived() ? "archived" : p.enabled() ? "on" : "off") + ", covering "
                + Out.of(p.people(), p.people(), "people"));
        p.sentences().forEach(s -> out().say("  " + s));
        p.notActiveYet().forEach(s -> out().say("  ! " + s));
        return 0;
    }

    final int act(String what) {
        return say(
                main().http().send("POST", "/api/policies/" + policy().id() + "/" + what, Map.of(), PolicyInfo.class));
    }

    static PolicyInfo find(Http http, String name) {
        return all(http).stream()
                .filter(p -> p.rules().name().equalsIgnoreCase(name)
                        || p.id().toString().equals(name))
                .findFirst()
                .orElseThrow(
                        () -> new Trouble(Trouble.NO, "there is no policy “" + name + "”; see “jandrel policy list”"));
    }

    static List<PolicyInfo> all(Http http) {
        return List.of(http.get("/api/policies", Map.of(), PolicyInfo[].class));
    }
}

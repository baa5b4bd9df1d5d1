package jandrel.service.triage;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;

/**
 * What takes one choice back.
 *
 * @param contacts keys of those that were made; {@code leads}, {@code accounts} and {@code opportunities} likewise
 * @param contact who was given the addresses, or the record that stayed
 * @param notAgain whom the service is to make nothing of again, should it be taken back
 * @param before of a record that became a part of {@code contact}
 * @param parts contacts who got one, by opportunity
 * @param openNothing keys of accounts that meetings are to open nothing for, should it be taken back
 * @param apart two records that were said to be two
 * @param kind of the two records that became one, or are two; null for contacts
 */
record Undo(
        List<String> contacts,
        List<String> leads,
        List<String> accounts,
        List<UUID> exclusions,
        List<String> hidden,
        @Nullable UUID contact,
        List<String> given,
        @Nullable String before,
        List<String> opportunities,
        List<String> notAgain,
        Map<UUID, List<UUID>> parts,
        List<String> openNothing,
        List<UUID> apart,
        @Nullable String kind) {
    private static final JsonMapper JSON = JsonMapper.builder().build();

    Undo {
        // what was done before opportunities could be made has none
        opportunities = opportunities == null ? List.of() : opportunities;
        notAgain = notAgain == null ? List.of() : notAgain;
        parts = parts == null ? Map.of() : parts;
        openNothing = openNothing == null ? List.of() : openNothing;
        apart = apart == null ? List.of() : apart;
    }

    static Undo nothing() {
        return new Undo(
                new ArrayList<>(),
                new ArrayList<>(),
                new ArrayList<>(),
                new ArrayList<>(),
                new ArrayList<>(),
                null,
                new ArrayList<>(),
                null,
                new ArrayList<>(),
                new ArrayList<>(),
                new HashMap<>(),
                new ArrayList<>(),
                List.of(),
                null);
    }

    Undo given(UUID contact, List<String> addresses) {
        return with(contact, addresses, null, apart, kind);
    }

    Undo merged(String kind, UUID stays, String before) {
        return with(stays, given, before, apart, kind);
    }

    Undo apart(String kind, UUID one, UUID other) {
        return with(contact, given, before, List.of(one, other), kind);
    }

    private Undo with(
            @Nullable UUID contact,
            List<String> given,
            @Nullable String before,
            List<UUID> apart,
            @Nullable String kind) {
        return new Undo(
                contacts,
                leads,
                accounts,
                exclusions,
                hidden,
                contact,
                given,
                before,
                opportunities,
                notAgain,
                parts,
                openNothing,
                apart,
                kind);
    }

    String text() {
        return JSON.writeValueAsString(this);
    }

    static Undo of(String text) {
        return JSON.readValue(text, Undo.class);
    }
}

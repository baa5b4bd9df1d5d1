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
 * @param contact who was given the addresses
 * @param notAgain whom the service is to make nothing of again, should it be taken back
 * @param before of a contact that became a part of {@code contact}
 * @param parts contacts who got one, by opportunity
 * @param openNothing keys of accounts that meetings are to open nothing for, should it be taken back
 * @param apart two contacts who were said to be two people
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
        List<UUID> apart) {
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
                List.of());
    }

    Undo given(UUID contact, List<String> addresses) {
        return with(contact, addresses, null, apart);
    }

    Undo merged(UUID stays, String before) {
        return with(stays, given, before, apart);
    }

    Undo apart(UUID one, UUID other) {
        return with(contact, given, before, List.of(one, other));
    }

    private Undo with(@Nullable UUID contact, List<String> given, @Nullable String before, List<UUID> apart) {
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
                apart);
    }

    String text() {
        return JSON.writeValueAsString(this);
    }

    static Undo of(String text) {
        return JSON.readValue(text, Undo.class);
    }
}

package jandrel.service.triage;

import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;

/**
 * What takes one choice back.
 *
 * @param contacts keys of those that were made; {@code leads} and {@code accounts} likewise
 * @param contact who was given the addresses
 * @param before of a contact that became a part of {@code contact}
 */
record Undo(
        List<String> contacts,
        List<String> leads,
        List<String> accounts,
        List<UUID> exclusions,
        List<String> hidden,
        @Nullable UUID contact,
        List<String> given,
        @Nullable String before) {
    private static final JsonMapper JSON = JsonMapper.builder().build();

    static Undo nothing() {
        return new Undo(
                new ArrayList<>(),
                new ArrayList<>(),
                new ArrayList<>(),
                new ArrayList<>(),
                new ArrayList<>(),
                null,
                new ArrayList<>(),
                null);
    }

    Undo given(UUID contact, List<String> addresses) {
        return new Undo(contacts, leads, accounts, exclusions, hidden, contact, addresses, null);
    }

    Undo merged(UUID stays, String before) {
        return new Undo(contacts, leads, accounts, exclusions, hidden, stays, given, before);
    }

    String text() {
        return JSON.writeValueAsString(this);
    }

    static Undo of(String text) {
        return JSON.readValue(text, Undo.class);
    }
}

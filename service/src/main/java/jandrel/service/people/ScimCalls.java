package jandrel.service.people;

import io.swagger.v3.oas.annotations.Hidden;
import jandrel.core.address.EmailAddress;
import jandrel.service.kernel.LargestBody;
import jandrel.service.kernel.WakeUp;
import jandrel.store.people.People;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PatchMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;

/**
 * People of the company by SCIM 2.0 (RFC 7643, RFC 7644): users become people, groups their teams. A user who is deactivated or
 * deleted is covered no longer; what was captured stays.
 */
@Hidden
@RestController
@RequestMapping(path = "/scim/v2", produces = "application/scim+json")
class ScimCalls {
    private static final String USER = "urn:ietf:params:scim:schemas:core:2.0:User";
    private static final String GROUP = "urn:ietf:params:scim:schemas:core:2.0:Group";
    private static final String LIST = "urn:ietf:params:scim:api:messages:2.0:ListResponse";
    private static final String ERROR = "urn:ietf:params:scim:api:messages:2.0:Error";
    private static final Pattern FILTER =
            Pattern.compile("(userName|displayName|externalId)\\s+eq\\s+\"([^\"]*)\"", Pattern.CASE_INSENSITIVE);
    private static final int MOST = 200;
    private final People people;
    private final ScimPeople changes;
    private final WakeUp nudges;

    ScimCalls(People people, ScimPeople changes, WakeUp nudges) {
        this.people = people;
        this.changes = changes;
        this.nudges = nudges;
    }

    @ExceptionHandler
    ResponseEntity<Map<String, Object>> refused(ScimRefused refused) {
        Map<String, Object> body = new LinkedHashMap<>();
        body.put("schemas", List.of(ERROR));
        body.put("status", String.valueOf(refused.status.value()));
        if (!refused.type.isEmpty()) {
            body.put("scimType", refused.type);
        }
        body.put("detail", String.valueOf(refused.getMessage()));
        return ResponseEntity.status(refused.status)
                .contentType(MediaType.parseMediaType("application/scim+json"))
                .body(body);
    }

    @GetMapping("/ServiceProviderConfig")
    Map<String, Object> abilities() {
        Map<String, Object> no = Map.of("supported", false);
        return Map.of(
                "schemas",
                List.of("urn:ietf:params:scim:schemas:core:2.0:ServiceProviderConfig"),
                "patch",
                Map.of("supported", true),
                "bulk",
                Map.of("supported", false, "maxOperations", 0, "maxPayloadSize", 0),
                "filter",
                Map.of("supported", true, "maxResults", MOST),
                "changePassword",
                no,
                "sort",
                no,
                "etag",
                no,
                "authenticationSchemes",
                List.of(Map.of(
                        "type", "oauthbearertoken", "name", "Bearer", "description", "A token with the scope scim")));
    }

    @GetMapping("/Users")
    Map<String, Object> users(
            @RequestParam(name = "filter", defaultValue = "") String filter,
            @RequestParam(name = "startIndex", defaultValue = "1") int start,
            @RequestParam(name = "count", defaultValue = "" + MOST) int count) {
        List<Map<String, Object>> all = people.all().stream()
                .filter(p -> fits(filter, p.key()))
                .map(this::shown)
                .toList();
        return listed(all, start, count);
    }

    private static boolean fits(String filter, String name) {
        if (filter.isBlank()) {
            return true;
        }
        Matcher m = FILTER.matcher(filter.strip());
        if (!m.matches()) {
            throw new ScimRefused(
                    HttpStatus.BAD_REQUEST, "invalidFilter", "Filters are of the form userName eq \"…\".");
        }
        return m.group(2).equalsIgnoreCase(name);
    }

    private static Map<String, Object> listed(List<Map<String, Object>> all, int start, int count) {
        int from = Math.min(all.size(), Math.max(0, start - 1));
        int to = Math.min(all.size(), from + Math.max(0, Math.min(count, MOST)));
        return Map.of(
                "schemas", List.of(LIST),
                "totalResults", all.size(),
                "startIndex", from + 1,
                "itemsPerPage", to - from,
                "Resources", all.subList(from, to));
    }

    @PostMapping("/Users")
    @LargestBody(kilobytes = 256)
    ResponseEntity<Map<String, Object>> addUser(@RequestBody JsonNode user, @AuthenticationPrincipal SignedIn me) {
        ScimPeople.User wanted = user(user, Optional.empty());
        if (people.find(wanted.key()).isPresent()) {
            throw new ScimRefused(HttpStatus.CONFLICT, "uniqueness", "There is a person with this userName.");
        }
        changes.put(wanted, me.login());
        nudges.rulesChanged();
        return ResponseEntity.status(HttpStatus.CREATED).body(shown(byKey(wanted.key())));
    }

    @GetMapping("/Users/{id}")
    Map<String, Object> oneUser(@PathVariable("id") UUID id) {
        return shown(known(id));
    }

    @PutMapping("/Users/{id}")
    @LargestBody(kilobytes = 256)
    Map<String, Object> putUser(
            @PathVariable("id") UUID id, @RequestBody JsonNode user, @AuthenticationPrincipal SignedIn me) {
        changes.put(user(user, Optional.of(known(id))), me.login());
        nudges.rulesChanged();
        return shown(known(id));
    }

    /** RFC 7644 §3.5.2: operations on active, displayName, name, emails and userType; others are refused. */
    @PatchMapping("/Users/{id}")
    @LargestBody(kilobytes = 1024)
    Map<String, Object> patchUser(
            @PathVariable("id") UUID id, @RequestBody JsonNode patch, @AuthenticationPrincipal SignedIn me) {
        ScimPeople.User user = changes.user(known(id));
        for (JsonNode operation : patch.path("Operations")) {
            user = patched(user, operation);
        }
        changes.put(user, me.login());
        nudges.rulesChanged();
        return shown(known(id));
    }

    private static ScimPeople.User patched(ScimPeople.User user, JsonNode operation) {
        String path = operation.path("path").asString("");
        JsonNode value = operation.path("value");
        if (path.isEmpty() && value.isObject()) {
            ScimPeople.User now = user;
            for (Map.Entry<String, JsonNode> member : value.properties()) {
                now = set(now, member.getKey(), member.getValue());
            }
            return now;
        }
        return set(user, path, value);
    }

    private static ScimPeople.User set(ScimPeople.User user, String path, JsonNode value) {
        return switch (path) {
            case "active" -> user.active(truth(value));
            case "displayName", "name.formatted" -> user.named(value.asString(user.name()));
            case "userType", "title" -> user.inRole(value.asString(""));
            case "emails" -> user.at(emails(value));
            default ->
                throw new ScimRefused(
                        HttpStatus.BAD_REQUEST, "invalidPath", "Only active, displayName, userType and emails change.");
        };
    }

    private static boolean truth(JsonNode value) {
        return value.isBoolean() ? value.asBoolean() : value.asString("true").equalsIgnoreCase("true");
    }

    @DeleteMapping("/Users/{id}")
    ResponseEntity<Void> removeUser(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        changes.put(changes.user(known(id)).active(false), me.login());
        return ResponseEntity.noContent().build();
    }

    @GetMapping("/Groups")
    Map<String, Object> groups(
            @RequestParam(name = "filter", defaultValue = "") String filter,
            @RequestParam(name = "startIndex", defaultValue = "1") int start,
            @RequestParam(name = "count", defaultValue = "" + MOST) int count) {
        List<Map<String, Object>> all = changes.groups().stream()
                .filter(g -> fits(filter, g.name()))
                .map(this::shown)
                .toList();
        return listed(all, start, count);
    }

    @PostMapping("/Groups")
    @LargestBody(kilobytes = 1024)
    ResponseEntity<Map<String, Object>> addGroup(@RequestBody JsonNode group, @AuthenticationPrincipal SignedIn me) {
        String name = group.path("displayName").asString("").strip();
        if (name.isEmpty()) {
            throw new ScimRefused(HttpStatus.BAD_REQUEST, "invalidValue", "A group needs a displayName.");
        }
        if (changes.groups().stream().anyMatch(g -> g.name().equals(name))) {
            throw new ScimRefused(HttpStatus.CONFLICT, "uniqueness", "There is a group of this displayName.");
        }
        UUID id = changes.addGroup(name);
        changes.join(name, members(group.path("members")), me.login());
        nudges.rulesChanged();
        return ResponseEntity.status(HttpStatus.CREATED).body(shown(group(id)));
    }

    @GetMapping("/Groups/{id}")
    Map<String, Object> oneGroup(@PathVariable("id") UUID id) {
        return shown(group(id));
    }

    /** Members are added and removed; a person is in one team, so who joins another leaves the first. */
    @PatchMapping("/Groups/{id}")
    @LargestBody(kilobytes = 1024)
    Map<String, Object> patchGroup(
            @PathVariable("id") UUID id, @RequestBody JsonNode patch, @AuthenticationPrincipal SignedIn me) {
        ScimPeople.Group group = group(id);
        for (JsonNode operation : patch.path("Operations")) {
            String what = operation.path("op").asString("").toLowerCase(java.util.Locale.ROOT);
            String path = operation.path("path").asString("members");
            if (!path.startsWith("members")) {
                throw new ScimRefused(HttpStatus.BAD_REQUEST, "invalidPath", "Only members of a group change.");
            }
            Matcher one = Pattern.compile("members\\[value eq \"([^\"]+)\"\\]").matcher(path);
            List<UUID> named = one.matches() ? List.of(member(one.group(1))) : members(operation.path("value"));
            switch (what) {
                case "add" -> changes.join(group.name(), named, me.login());
                case "remove" -> changes.leave(group.name(), named, me.login());
                case "replace" -> changes.become(group.name(), named, me.login());
                default ->
                    throw new ScimRefused(HttpStatus.BAD_REQUEST, "invalidSyntax", "There is no such operation.");
            }
        }
        nudges.rulesChanged();
        return shown(group(id));
    }

    @DeleteMapping("/Groups/{id}")
    ResponseEntity<Void> removeGroup(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        ScimPeople.Group group = group(id);
        changes.leave(group.name(), changes.members(group.name()), me.login());
        changes.removeGroup(id);
        nudges.rulesChanged();
        return ResponseEntity.noContent().build();
    }

    private ScimPeople.Group group(UUID id) {
        return changes.groups().stream()
                .filter(g -> g.id().equals(id))
                .findFirst()
                .orElseThrow(() -> new ScimRefused(HttpStatus.NOT_FOUND, "", "There is no such group."));
    }

    private static List<UUID> members(JsonNode value) {
        List<UUID> members = new ArrayList<>();
        for (JsonNode member : value) {
            members.add(member(member.path("value").asString("")));
        }
        return members;
    }

    private static UUID member(String text) {
        try {
            return UUID.fromString(text);
        } catch (IllegalArgumentException noId) {
            throw new ScimRefused(HttpStatus.BAD_REQUEST, "invalidValue", "A member’s value is no id.");
        }
    }

    private People.Person known(UUID id) {
        return people.one(id).orElseThrow(() -> new ScimRefused(HttpStatus.NOT_FOUND, "", "There is no such person."));
    }

    private People.Person byKey(String key) {
        return people.find(key)
                .orElseThrow(() -> new ScimRefused(HttpStatus.NOT_FOUND, "", "There is no such person."));
    }

    private ScimPeople.User user(JsonNode user, Optional<People.Person> before) {
        String key = user.path("userName")
                .asString(before.map(People.Person::key).orElse(""))
                .strip();
        if (key.isEmpty()) {
            throw new ScimRefused(HttpStatus.BAD_REQUEST, "invalidValue", "A user needs a userName.");
        }
        List<EmailAddress> addresses = emails(user.path("emails"));
        if (addresses.isEmpty()) {
            EmailAddress.parse(key).ifPresent(addresses::add);
        }
        if (addresses.isEmpty()) {
            throw new ScimRefused(HttpStatus.BAD_REQUEST, "invalidValue", "A user needs an address among emails.");
        }
        JsonNode name = user.path("name");
        String formatted = (name.path("givenName").asString("") + " "
                        + name.path("familyName").asString(""))
                .strip();
        String shown = user.path("displayName")
                .asString(name.path("formatted").asString(formatted.isEmpty() ? key : formatted));
        return new ScimPeople.User(
                before.map(People.Person::key).orElse(key),
                shown,
                addresses,
                before.map(People.Person::team).orElse(""),
                user.path("userType")
                        .asString(user.path("title")
                                .asString(before.map(People.Person::role).orElse(""))),
                user.has("active") ? truth(user.path("active")) : null);
    }

    private static List<EmailAddress> emails(JsonNode emails) {
        List<EmailAddress> addresses = new ArrayList<>();
        for (JsonNode email : emails) {
            String text =
                    email.isString() ? email.asString() : email.path("value").asString("");
            addresses.add(EmailAddress.parse(text)
                    .orElseThrow(() -> new ScimRefused(
                            HttpStatus.BAD_REQUEST, "invalidValue", "Among emails is one that is no address.")));
        }
        return addresses;
    }

    private Map<String, Object> shown(People.Person p) {
        Map<String, Object> user = new LinkedHashMap<>();
        user.put("schemas", List.of(USER));
        user.put("id", p.id().toString());
        user.put("userName", p.key());
        user.put("displayName", p.name());
        user.put("userType", p.role());
        user.put("active", changes.isActive(p));
        List<Map<String, Object>> emails = new ArrayList<>();
        for (String address : p.addresses()) {
            emails.add(Map.of("value", address, "primary", emails.isEmpty()));
        }
        user.put("emails", emails);
        if (!p.team().isEmpty()) {
            user.put("groups", List.of(Map.of("display", p.team())));
        }
        user.put("meta", Map.of("resourceType", "User", "location", "/scim/v2/Users/" + p.id()));
        return user;
    }

    private Map<String, Object> shown(ScimPeople.Group g) {
        List<Map<String, Object>> members = people.all().stream()
                .filter(p -> p.team().equals(g.name()))
                .map(p -> Map.<String, Object>of("value", p.id().toString(), "display", p.name()))
                .toList();
        return Map.of(
                "schemas", List.of(GROUP),
                "id", g.id().toString(),
                "displayName", g.name(),
                "members", members,
                "meta", Map.of("resourceType", "Group", "location", "/scim/v2/Groups/" + g.id()));
    }
}

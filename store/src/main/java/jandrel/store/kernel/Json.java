package jandrel.store.kernel;

import jandrel.core.address.EmailAddress;
import jandrel.core.contacts.ContactDetails;
import jandrel.core.decide.Link;
import jandrel.core.decide.Reason;
import jandrel.core.item.Content.Attachment;
import jandrel.core.item.Item;
import jandrel.core.item.MailItem;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.UnreadableItem;
import jandrel.core.policy.Policy;
import jandrel.core.reconcile.Base;
import jandrel.core.reconcile.Details;
import jandrel.core.reconcile.Exchange;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.JsonParser;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.DeserializationContext;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.SerializationContext;
import tools.jackson.databind.ValueDeserializer;
import tools.jackson.databind.ValueSerializer;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.module.SimpleModule;

/** Facts, trails and links as the database keeps them. */
public final class Json {
    private static final JsonMapper MAPPER = JsonMapper.builder()
            // what was kept before there was a setting lacks it
            .disable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)
            .addModule(new SimpleModule()
                    .addSerializer(EmailAddress.class, new AddressOut())
                    .addDeserializer(EmailAddress.class, new AddressIn()))
            .build();

    private static final int MOST_POLICIES = 500;
    private static final Map<String, Policy> POLICIES = new ConcurrentHashMap<>();

    private Json() {}

    public static String write(Object value) {
        return MAPPER.writeValueAsString(value);
    }

    public static Item item(String kind, String json) {
        return switch (kind) {
            case "mail" -> MAPPER.readValue(json, MailItem.class);
            case "meeting" -> MAPPER.readValue(json, MeetingItem.class);
            default -> throw new IllegalStateException("no facts are kept for kind " + kind);
        };
    }

    /** Read once for each text: the rules of a policy are asked for with every batch. */
    public static Policy policy(String json) {
        if (POLICIES.size() > MOST_POLICIES) {
            POLICIES.clear();
        }
        return POLICIES.computeIfAbsent(json, text -> MAPPER.readValue(text, Policy.class));
    }

    public static Details details(String json) {
        return MAPPER.readValue(json, Details.class);
    }

    public static Base<Details> base(String json) {
        return MAPPER.readValue(json, new TypeReference<Base<Details>>() {});
    }

    public static Exchange.Sending<Details> sending(String json) {
        return MAPPER.readValue(json, new TypeReference<Exchange.Sending<Details>>() {});
    }

    public static ContactDetails contact(String json) {
        return MAPPER.readValue(json, ContactDetails.class);
    }

    public static Base<ContactDetails> contactBase(String json) {
        return MAPPER.readValue(json, new TypeReference<Base<ContactDetails>>() {});
    }

    public static Exchange.Sending<ContactDetails> contactSending(String json) {
        return MAPPER.readValue(json, new TypeReference<Exchange.Sending<ContactDetails>>() {});
    }

    /** What speaks for contacts, by their ids. */
    public static Map<UUID, List<String>> grounds(String json) {
        return MAPPER.readValue(json, new TypeReference<Map<UUID, List<String>>>() {});
    }

    /** A record of such. */
    public static <T> T read(String json, Class<T> type) {
        return MAPPER.readValue(json, type);
    }

    /** Maps, lists, texts, numbers and truth values. */
    public static Object any(String json) {
        return MAPPER.readValue(json, Object.class);
    }

    /** The same, made of a record of such. */
    static Object plain(Object value) {
        return any(write(value));
    }

    public static String kind(Item item) {
        if (item instanceof UnreadableItem) {
            return "unknown";
        }
        return item instanceof MailItem ? "mail" : "meeting";
    }

    public static List<Reason> trail(String json) {
        return List.of(MAPPER.readValue(json, Reason[].class));
    }

    public static List<Link> links(String json) {
        return List.of(MAPPER.readValue(json, Link[].class));
    }

    public static List<Attachment> attachments(String json) {
        return List.of(MAPPER.readValue(json, Attachment[].class));
    }

    private static final class AddressOut extends ValueSerializer<EmailAddress> {
        @Override
        public void serialize(EmailAddress value, JsonGenerator out, SerializationContext context) {
            out.writeString(value.toString());
        }
    }

    private static final class AddressIn extends ValueDeserializer<EmailAddress> {
        @Override
        public EmailAddress deserialize(JsonParser in, DeserializationContext context) {
            return EmailAddress.of(in.getString());
        }
    }
}

package jandrel.store.directory;

import jandrel.core.directory.DirectoryFile;
import jandrel.core.directory.OwnFields;
import jandrel.core.directory.RecordKind;
import jandrel.store.directory.DirectoryTables.TableLine;
import jandrel.store.kernel.ChangeCursor;
import jandrel.store.kernel.ReadTimeout;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import java.util.stream.Collectors;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** All accounts, contacts, leads and opportunities, page by page, or those alone that changed since an earlier export. */
@Component
public class RecordExport {
    private final Mapped mapper;
    private final DirectoryTables tables;
    private final OwnFieldList own;

    /** @param values by column, as its file has it; without what is empty */
    public record Exported(RecordKind kind, UUID id, String key, boolean archived, Map<String, String> values) {}

    @Mapper
    interface Mapped {
        record Found(UUID id, String kind) {}

        String CHANGED = " r WHERE r.id > #{after} AND (EXISTS (SELECT FROM ";

        String ITSELF = " x WHERE x.id = r.id AND " + ChangeCursor.SINCE
                + ") OR EXISTS (SELECT FROM record_touched x WHERE x.id = r.id AND " + ChangeCursor.SINCE + ")";

        String OR_OF = " OR EXISTS (SELECT FROM ";

        String SINCE = " = r.id AND " + ChangeCursor.SINCE + ")";

        String ORDERED = ") ORDER BY r.id LIMIT #{most})";

        /** A record has changed when its row has, or something of it that stands in another table. */
        @Select("(SELECT r.id, 'ACCOUNT' AS kind FROM account" + CHANGED + "account" + ITSELF
                + OR_OF + "account_domain x WHERE x.account" + SINCE + ORDERED
                + " UNION ALL (SELECT r.id, 'CONTACT' FROM contact" + CHANGED + "contact" + ITSELF
                + OR_OF + "contact_address x WHERE x.contact" + SINCE
                + OR_OF + "contact_phone x WHERE x.contact" + SINCE + ORDERED
                + " UNION ALL (SELECT r.id, 'LEAD' FROM lead" + CHANGED + "lead" + ITSELF
                + OR_OF + "lead_address x WHERE x.lead" + SINCE + ORDERED
                + " UNION ALL (SELECT r.id, 'OPPORTUNITY' FROM opportunity" + CHANGED + "opportunity" + ITSELF
                + OR_OF + "opportunity_contact x WHERE x.opportunity" + SINCE + ORDERED
                + " ORDER BY id LIMIT #{most}")
        List<Found> next(@Param("after") UUID after, @Param("since") long since, @Param("most") int most);

        @Select("SELECT x.id FROM record_gone x WHERE x.id > #{after} AND " + ChangeCursor.SINCE + """
                     AND NOT EXISTS (SELECT FROM account r WHERE r.id = x.id UNION ALL SELECT FROM contact r WHERE r.id = x.id
                        UNION ALL SELECT FROM lead r WHERE r.id = x.id UNION ALL SELECT FROM opportunity r WHERE r.id = x.id)
                    ORDER BY x.id LIMIT #{most}
                    """)
        List<UUID> gone(@Param("after") UUID after, @Param("since") long since, @Param("most") int most);
    }

    RecordExport(Mapped mapper, DirectoryTables tables, OwnFieldList own) {
        this.own = own;
        this.mapper = mapper;
        this.tables = tables;
    }

    /**
     * The next in order of their ids.
     *
     * @param since an earlier {@link ChangeCursor#current()}; 0 for all
     * @return empty after the last
     */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Exported> next(long since, UUID after, int most) {
        List<Mapped.Found> found = mapper.next(after, since, most);
        Map<RecordKind, List<UUID>> byKind = new HashMap<>();
        found.forEach(f -> byKind.computeIfAbsent(RecordKind.valueOf(f.kind()), k -> new ArrayList<>())
                .add(f.id()));
        Map<UUID, Exported> exported = new HashMap<>();
        OwnFields fields = own.fields();
        for (DirectoryFile file : DirectoryFile.values()) {
            RecordKind kind = file.kind().orElse(null);
            List<UUID> ids = byKind.getOrDefault(kind, List.of());
            if (kind != null && !ids.isEmpty()) {
                Set<String> columns = fields.columns(file).stream()
                        .map(DirectoryFile.Column::name)
                        .collect(Collectors.toSet());
                tables.some(file, ids.toArray(UUID[]::new))
                        .forEach(line -> exported.put(line.id(), exported(kind, line, columns)));
            }
        }
        return found.stream()
                .map(f -> exported.get(f.id()))
                .filter(e -> e != null)
                .toList();
    }

    /** What other rows say, such as a name, changes without this one: it is told by their keys alone. */
    private static Exported exported(RecordKind kind, TableLine line, Set<String> columns) {
        Map<String, String> values = new TreeMap<>(line.values());
        values.keySet().retainAll(columns);
        values.remove("key");
        values.values().removeIf(String::isEmpty);
        return new Exported(kind, line.id(), line.key(), line.archived(), values);
    }

    /** The next of those that there are no more, by id. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<UUID> gone(long since, UUID after, int most) {
        return mapper.gone(after, since, most);
    }
}

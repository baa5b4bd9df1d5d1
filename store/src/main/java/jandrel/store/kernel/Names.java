package jandrel.store.kernel;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Select;

/** What people and accounts are called. */
@Mapper
public interface Names {
    record Named(UUID id, String name) {}

    @Select("SELECT id, name FROM person")
    List<Named> allPeople();

    @Select("SELECT id, name FROM account")
    List<Named> allAccounts();

    default Map<UUID, String> people() {
        return byId(allPeople());
    }

    default Map<UUID, String> accounts() {
        return byId(allAccounts());
    }

    private static Map<UUID, String> byId(List<Named> all) {
        Map<UUID, String> names = new HashMap<>();
        all.forEach(n -> names.put(n.id(), n.name()));
        return names;
    }
}

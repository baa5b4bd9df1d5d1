package jandrel.store.kernel;

import java.util.UUID;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;

/** What this database belongs to. */
@Mapper
public interface Installation {
    /** Notes the key file that fills it, the first time. */
    @Insert("INSERT INTO installation (key_check) VALUES (#{check}) ON CONFLICT DO NOTHING")
    int belongsTo(@Param("check") UUID keyCheck);
}

package jandrel.store.kernel;

import java.sql.Array;
import java.sql.CallableStatement;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.UUID;
import org.apache.ibatis.type.BaseTypeHandler;
import org.apache.ibatis.type.JdbcType;
import org.jspecify.annotations.Nullable;

/** PostgreSQL's arrays and uuids as Java's. */
public final class ArrayHandlers {
    private ArrayHandlers() {}

    private abstract static class Of<T> extends BaseTypeHandler<T[]> {
        private final String type;

        Of(String type) {
            this.type = type;
        }

        @Override
        public void setNonNullParameter(PreparedStatement ps, int i, T[] value, @Nullable JdbcType jdbc)
                throws SQLException {
            ps.setArray(i, ps.getConnection().createArrayOf(type, value));
        }

        @SuppressWarnings("unchecked")
        private T @Nullable [] read(@Nullable Array array) throws SQLException {
            return array == null ? null : (T[]) array.getArray();
        }

        @Override
        public T @Nullable [] getNullableResult(ResultSet rs, String column) throws SQLException {
            return read(rs.getArray(column));
        }

        @Override
        public T @Nullable [] getNullableResult(ResultSet rs, int column) throws SQLException {
            return read(rs.getArray(column));
        }

        @Override
        public T @Nullable [] getNullableResult(CallableStatement cs, int column) throws SQLException {
            return read(cs.getArray(column));
        }
    }

    /** {@code text[]}. */
    public static final class Texts extends Of<String> {
        public Texts() {
            super("text");
        }
    }

    /** {@code uuid[]}. */
    public static final class Uuids extends Of<UUID> {
        public Uuids() {
            super("uuid");
        }
    }

    /** {@code bigint[]}. */
    public static final class Longs extends Of<Long> {
        public Longs() {
            super("int8");
        }
    }

    /** {@code uuid}. */
    public static final class Uuid extends BaseTypeHandler<UUID> {
        @Override
        public void setNonNullParameter(PreparedStatement ps, int i, UUID value, @Nullable JdbcType jdbc)
                throws SQLException {
            ps.setObject(i, value);
        }

        @Override
        public @Nullable UUID getNullableResult(ResultSet rs, String column) throws SQLException {
            return rs.getObject(column, UUID.class);
        }

        @Override
        public @Nullable UUID getNullableResult(ResultSet rs, int column) throws SQLException {
            return rs.getObject(column, UUID.class);
        }

        @Override
        public @Nullable UUID getNullableResult(CallableStatement cs, int column) throws SQLException {
            return cs.getObject(column, UUID.class);
        }
    }
}

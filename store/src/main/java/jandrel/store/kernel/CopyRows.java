package jandrel.store.kernel;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;

/**
 * Rows for COPY in its binary format (PostgreSQL 15, SQL COPY, "Binary Format"): three times as fast as inserts where a batch's
 * insert is the wall, and cheaper for the backend than text, which it would have to take apart and parse.
 */
public final class CopyRows {
    private static final byte[] SIGNATURE = {
        'P', 'G', 'C', 'O', 'P', 'Y', '\n', (byte) 0xff, '\r', '\n', 0, 0, 0, 0, 0, 0, 0, 0, 0
    };
    private static final long EPOCH_SECONDS =
            Instant.parse("2000-01-01T00:00:00Z").getEpochSecond();
    private static final int UUID_TYPE = 2950;
    private static final int TEXT_TYPE = 25;

    private ByteBuffer rows = ByteBuffer.allocate(8_192).put(SIGNATURE);
    private int rowStart = -1;
    private int cells;

    public CopyRows cell(@Nullable UUID value) {
        return value == null ? none() : begin(16).id(value);
    }

    public CopyRows cell(int value) {
        begin(4).rows.putInt(value);
        return this;
    }

    public CopyRows cell(boolean value) {
        begin(1).rows.put((byte) (value ? 1 : 0));
        return this;
    }

    public CopyRows cell(@Nullable Boolean value) {
        return value == null ? none() : cell(value.booleanValue());
    }

    public CopyRows cell(@Nullable Instant value) {
        if (value == null) {
            return none();
        }
        begin(8).rows.putLong((value.getEpochSecond() - EPOCH_SECONDS) * 1_000_000 + value.getNano() / 1_000);
        return this;
    }

    /** Half a surrogate pair becomes a question mark, a zero character a space: PostgreSQL takes neither. */
    public CopyRows cell(@Nullable String value) {
        if (value == null) {
            return none();
        }
        byte[] bytes = bytes(value);
        begin(bytes.length).rows.put(bytes);
        return this;
    }

    public CopyRows ids(@Nullable Collection<UUID> values) {
        if (values == null) {
            return none();
        }
        array(UUID_TYPE, values.size(), 20 * values.size());
        values.forEach(value -> {
            rows.putInt(16);
            id(value);
        });
        return this;
    }

    public CopyRows texts(@Nullable Collection<String> values) {
        if (values == null) {
            return none();
        }
        byte[][] all = values.stream().map(CopyRows::bytes).toArray(byte[][]::new);
        array(
                TEXT_TYPE,
                all.length,
                Arrays.stream(all).mapToInt(b -> b.length + 4).sum());
        for (byte[] bytes : all) {
            rows.putInt(bytes.length).put(bytes);
        }
        return this;
    }

    private void array(int type, int count, int bytes) {
        begin((count == 0 ? 12 : 20) + bytes);
        rows.putInt(count == 0 ? 0 : 1).putInt(0).putInt(type);
        if (count > 0) {
            rows.putInt(count).putInt(1);
        }
    }

    private CopyRows id(UUID value) {
        rows.putLong(value.getMostSignificantBits()).putLong(value.getLeastSignificantBits());
        return this;
    }

    private CopyRows none() {
        begin(0);
        rows.putInt(rows.position() - 4, -1);
        return this;
    }

    private CopyRows begin(int bytes) {
        room(bytes + 6);
        if (rowStart < 0) {
            rowStart = rows.position();
            rows.putShort((short) 0);
        }
        cells++;
        rows.putInt(bytes);
        return this;
    }

    private static byte[] bytes(String value) {
        byte[] bytes = value.getBytes(StandardCharsets.UTF_8);
        if (value.indexOf('\0') >= 0) {
            for (int i = 0; i < bytes.length; i++) {
                bytes[i] = bytes[i] == 0 ? (byte) ' ' : bytes[i];
            }
        }
        return bytes;
    }

    private void room(int more) {
        if (rows.remaining() < more) {
            int size = Math.max(rows.position() + more, rows.capacity() * 2);
            rows = ByteBuffer.wrap(Arrays.copyOf(rows.array(), size)).position(rows.position());
        }
    }

    public void endRow() {
        rows.putShort(rowStart, (short) cells);
        rowStart = -1;
        cells = 0;
    }

    public void into(Connection connection, String tableAndColumns) throws SQLException {
        if (rows.position() == SIGNATURE.length) {
            return;
        }
        room(2);
        rows.putShort((short) -1);
        try {
            connection
                    .unwrap(PGConnection.class)
                    .getCopyAPI()
                    .copyIn(
                            "COPY " + tableAndColumns + " FROM STDIN (FORMAT binary)",
                            new ByteArrayInputStream(rows.array(), 0, rows.position()),
                            1 << 16);
        } catch (IOException impossible) {
            throw new IllegalStateException("bytes in memory cannot be read", impossible);
        }
    }
}

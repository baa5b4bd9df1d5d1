package jandrel.store.capture;

import jandrel.store.kernel.StoreException;
import java.sql.SQLException;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.NonTransientDataAccessResourceException;
import org.springframework.dao.RecoverableDataAccessException;
import org.springframework.dao.TransientDataAccessException;
import org.springframework.transaction.TransactionException;

/** Tells a failure that the data itself causes, and would cause again, from one of the database or of the moment. */
final class Poison {
    private Poison() {}

    static boolean isIn(RuntimeException failure) {
        if (failure instanceof CursorConflict
                || failure instanceof TransactionException
                || failure instanceof TransientDataAccessException
                || failure instanceof RecoverableDataAccessException
                || failure instanceof NonTransientDataAccessResourceException) {
            return false;
        }
        for (Throwable cause = failure; cause != null; cause = cause.getCause()) {
            if (cause instanceof VirtualMachineError && !(cause instanceof StackOverflowError)) {
                return false;
            }
            if (cause instanceof StoreException store) {
                return isOfData(store.state());
            }
            if (cause instanceof SQLException sql) {
                return isOfData(sql.getSQLState());
            }
        }
        return true;
    }

    /** Classes 22 (data exception), 23 (integrity), 54 (program limit exceeded) of PostgreSQL's error codes. */
    private static boolean isOfData(@Nullable String state) {
        return state != null && (state.startsWith("22") || state.startsWith("23") || state.startsWith("54"));
    }
}

package jandrel.store.connections;

/** What sources have shown, wherever that is kept. */
public interface SourceItems {
    /** Removes all that a source showed, step by step, so in no transaction of the caller's; activities that others showed too stay. */
    void forgetAll(int source);
}

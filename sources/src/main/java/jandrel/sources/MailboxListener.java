package jandrel.sources;

/** Hears what happens to one mailbox, on a thread that must not be kept waiting. */
public interface MailboxListener {
    /** It is listened to from now on; what came before may have been missed. */
    void listening();

    /** Something arrived, went or was marked. */
    void news();

    /** It is listened to no longer. Called once, and last. */
    void lost(SourceTrouble why);
}

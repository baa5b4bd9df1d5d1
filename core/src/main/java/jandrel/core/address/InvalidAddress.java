package jandrel.core.address;

/** Text that is no mail address or domain name. The message never repeats the text. */
public final class InvalidAddress extends IllegalArgumentException {
    private static final long serialVersionUID = 1L;

    InvalidAddress(String why) {
        super(why);
    }
}

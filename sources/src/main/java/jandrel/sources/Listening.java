package jandrel.sources;

import io.netty.buffer.ByteBuf;
import io.netty.buffer.Unpooled;
import io.netty.channel.ChannelHandlerContext;
import io.netty.channel.SimpleChannelInboundHandler;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.TimeUnit;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.eclipse.angus.mail.imap.protocol.BASE64MailboxEncoder;
import org.jspecify.annotations.Nullable;

/** The talk with one server, from its greeting to its news. Always on the thread of its connection. */
// what fails is heard of elsewhere: by the channel, the next turn, or not at all on purpose
@SuppressWarnings("FutureReturnValueIgnored")
final class Listening extends SimpleChannelInboundHandler<ByteBuf> {
    /** Servers may end what is silent for 30 minutes (RFC 2177). */
    private static final long RENEW_MINUTES = 24;

    private static final long PATIENCE_SECONDS = 30;
    private static final Pattern NEWS =
            Pattern.compile("\\* (\\d+ (EXISTS|EXPUNGE|FETCH)|VANISHED|STATUS)\\b.*", Pattern.CASE_INSENSITIVE);
    private static final String EVENTS = "(MessageNew MessageExpunge FlagChange)";

    private enum Step {
        GREETING,
        SIGN_IN,
        ABILITIES,
        FOLDER,
        OTHERS,
        LISTENING,
        RENEWING
    }

    private final ServerAccount account;
    private final List<String> folders;
    private final MailboxListener listener;
    private Step step = Step.GREETING;
    private int number;
    private String abilities = "";
    private boolean told;
    private @Nullable ScheduledFuture<?> patience;

    Listening(ServerAccount account, List<String> folders, MailboxListener listener) {
        this.account = account;
        this.folders = List.copyOf(folders);
        this.listener = listener;
    }

    /** Says nothing more to its listener. */
    void quiet() {
        told = true;
    }

    void unreachable(Throwable cause) {
        lost(SourceTrouble.Kind.UNREACHABLE, "the mail server cannot be reached to listen to it", cause);
    }

    @Override
    public void channelActive(ChannelHandlerContext context) {
        await(context);
    }

    @Override
    protected void channelRead0(ChannelHandlerContext context, ByteBuf bytes) {
        String line = bytes.toString(StandardCharsets.UTF_8);
        if (line.startsWith("* BYE")) {
            lost(SourceTrouble.Kind.BROKEN, "the mail server ended the connection", null);
            context.close();
        } else if (line.startsWith("+")) {
            goOn(context);
        } else if (line.startsWith("* ")) {
            untagged(context, line);
        } else if (line.startsWith("j" + number + " ")) {
            tagged(context, line.substring(line.indexOf(' ') + 1));
        }
    }

    private void untagged(ChannelHandlerContext context, String line) {
        if (step == Step.GREETING) {
            step = Step.SIGN_IN;
            say(context, "AUTHENTICATE " + (account.bearer() ? OAuthBearer.NAME : "PLAIN"));
        } else if (line.startsWith("* CAPABILITY")) {
            abilities = line.toUpperCase(Locale.ROOT) + " ";
        } else if (step.compareTo(Step.LISTENING) >= 0
                && !told
                && NEWS.matcher(line).matches()) {
            listener.news();
        }
    }

    /** The server asks for what the last command left open. */
    private void goOn(ChannelHandlerContext context) {
        if (step == Step.SIGN_IN) {
            String secret = account.bearer()
                    ? "n,a=" + account.name() + ",\u0001auth=Bearer " + account.secret() + "\u0001\u0001"
                    : "\0" + account.login() + "\0" + account.secret();
            write(context, Base64.getEncoder().encodeToString(secret.getBytes(StandardCharsets.UTF_8)));
        } else if (step == Step.LISTENING) {
            calm();
            if (!told) {
                listener.listening();
            }
            context.executor().schedule(() -> renew(context), RENEW_MINUTES, TimeUnit.MINUTES);
        }
    }

    private void tagged(ChannelHandlerContext context, String answer) {
        boolean fine = answer.toUpperCase(Locale.ROOT).startsWith("OK");
        if (!fine && step != Step.OTHERS) {
            refused(context);
            return;
        }
        switch (step) {
            case SIGN_IN -> {
                step = Step.ABILITIES;
                say(context, "CAPABILITY");
            }
            case ABILITIES -> {
                if (!abilities.contains(" IDLE ")) {
                    lost(SourceTrouble.Kind.REFUSED, "the mail server does not offer to be listened to", null);
                    context.close();
                    return;
                }
                step = Step.FOLDER;
                say(context, "EXAMINE " + quoted(folders.get(0)));
            }
            case FOLDER -> {
                step = Step.OTHERS;
                if (folders.size() > 1 && abilities.contains(" NOTIFY ")) {
                    String others =
                            folders.stream().skip(1).map(Listening::quoted).collect(Collectors.joining(" "));
                    say(context, "NOTIFY SET (SELECTED " + EVENTS + ") (MAILBOXES (" + others + ") " + EVENTS + ")");
                } else {
                    listen(context);
                }
            }
            case OTHERS, RENEWING -> listen(context);
            case GREETING, LISTENING -> {
                // nothing was asked
            }
        }
    }

    private void refused(ChannelHandlerContext context) {
        if (step == Step.SIGN_IN) {
            lost(SourceTrouble.Kind.SIGN_IN, "the mail server does not take the sign-in", null);
        } else {
            lost(SourceTrouble.Kind.BROKEN, "the mail server does not let itself be listened to", null);
        }
        context.close();
    }

    private void listen(ChannelHandlerContext context) {
        step = Step.LISTENING;
        say(context, "IDLE");
    }

    private void renew(ChannelHandlerContext context) {
        if (step == Step.LISTENING && context.channel().isActive()) {
            step = Step.RENEWING;
            write(context, "DONE");
            await(context);
        }
    }

    private void say(ChannelHandlerContext context, String command) {
        number++;
        write(context, "j" + number + " " + command);
        await(context);
    }

    private static void write(ChannelHandlerContext context, String line) {
        context.writeAndFlush(Unpooled.copiedBuffer(line + "\r\n", StandardCharsets.UTF_8));
    }

    /** Whoever does not answer in time is not listened to for ever. */
    private void await(ChannelHandlerContext context) {
        calm();
        patience = context.executor()
                .schedule(
                        () -> {
                            lost(SourceTrouble.Kind.BROKEN, "the mail server does not answer", null);
                            context.close();
                        },
                        PATIENCE_SECONDS,
                        TimeUnit.SECONDS);
    }

    private void calm() {
        if (patience != null) {
            patience.cancel(false);
            patience = null;
        }
    }

    /** As IMAP writes the name of a folder (RFC 3501 §5.1.3). */
    private static String quoted(String folder) {
        return '"' + BASE64MailboxEncoder.encode(folder).replace("\\", "\\\\").replace("\"", "\\\"") + '"';
    }

    @Override
    public void channelInactive(ChannelHandlerContext context) {
        calm();
        lost(SourceTrouble.Kind.UNREACHABLE, "the mail server closed the connection", null);
    }

    @Override
    public void exceptionCaught(ChannelHandlerContext context, Throwable cause) {
        lost(SourceTrouble.Kind.UNREACHABLE, "the connection to the mail server broke", cause);
        context.close();
    }

    private void lost(SourceTrouble.Kind kind, String why, @Nullable Throwable cause) {
        if (!told) {
            told = true;
            listener.lost(new SourceTrouble(kind, why, cause));
        }
    }
}

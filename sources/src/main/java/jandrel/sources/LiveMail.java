package jandrel.sources;

import io.netty.bootstrap.Bootstrap;
import io.netty.channel.Channel;
import io.netty.channel.ChannelInitializer;
import io.netty.channel.ChannelOption;
import io.netty.channel.EventLoopGroup;
import io.netty.channel.MultiThreadIoEventLoopGroup;
import io.netty.channel.nio.NioIoHandler;
import io.netty.channel.socket.SocketChannel;
import io.netty.channel.socket.nio.NioSocketChannel;
import io.netty.handler.codec.LineBasedFrameDecoder;
import io.netty.handler.ssl.ClientAuth;
import io.netty.handler.ssl.JdkSslContext;
import io.netty.handler.ssl.SslHandler;
import java.util.List;
import java.util.concurrent.ThreadFactory;
import java.util.concurrent.TimeUnit;
import javax.net.ssl.SSLParameters;

/**
 * Hears from mail servers when something has changed (IDLE, RFC 2177; NOTIFY, RFC 5465, where several folders are listened to), for
 * as many mailboxes as there are: all share two threads, and a mailbox costs a connection and some memory.
 */
// what fails is heard of elsewhere: by the channel, the next turn, or not at all on purpose
@SuppressWarnings("FutureReturnValueIgnored")
public final class LiveMail implements AutoCloseable {
    private static final int LONGEST_LINE = 64 * 1024;
    private static final int CONNECT_MILLIS = 15_000;
    private final EventLoopGroup threads =
            new MultiThreadIoEventLoopGroup(2, (ThreadFactory) LiveMail::daemon, NioIoHandler.newFactory());

    /** One mailbox that is listened to. */
    public interface Watch {
        /** Ends it, without a word to its listener. */
        void close();
    }

    /**
     * Returns at once.
     *
     * @param folders the first is listened to in any case, the others where the server can tell of them too
     */
    public Watch watch(
            Endpoint endpoint, ServerAccount account, Trust trust, List<String> folders, MailboxListener listener) {
        Listening listening = new Listening(account, folders, listener);
        Bootstrap bootstrap = new Bootstrap()
                .group(threads)
                .channel(NioSocketChannel.class)
                .option(ChannelOption.CONNECT_TIMEOUT_MILLIS, CONNECT_MILLIS)
                .option(ChannelOption.SO_KEEPALIVE, true)
                .option(ChannelOption.TCP_NODELAY, true)
                .handler(new ChannelInitializer<SocketChannel>() {
                    @Override
                    protected void initChannel(SocketChannel channel) {
                        channel.pipeline()
                                .addLast(tls(channel, endpoint, trust))
                                .addLast(new LineBasedFrameDecoder(LONGEST_LINE))
                                .addLast(listening);
                    }
                });
        Channel channel = bootstrap
                .connect(endpoint.host(), endpoint.port())
                .addListener(done -> {
                    if (!done.isSuccess()) {
                        listening.unreachable(done.cause());
                    }
                })
                .channel();
        return () -> {
            listening.quiet();
            channel.close();
        };
    }

    private static SslHandler tls(SocketChannel channel, Endpoint endpoint, Trust trust) {
        SslHandler handler = new JdkSslContext(trust.context(), true, ClientAuth.NONE)
                .newHandler(channel.alloc(), endpoint.host(), endpoint.port());
        SSLParameters parameters = handler.engine().getSSLParameters();
        parameters.setEndpointIdentificationAlgorithm("HTTPS");
        handler.engine().setSSLParameters(parameters);
        handler.setHandshakeTimeoutMillis(CONNECT_MILLIS);
        return handler;
    }

    private static Thread daemon(Runnable work) {
        Thread thread = new Thread(work, "live mail");
        thread.setDaemon(true);
        return thread;
    }

    @Override
    public void close() {
        threads.shutdownGracefully(0, 2, TimeUnit.SECONDS);
    }
}

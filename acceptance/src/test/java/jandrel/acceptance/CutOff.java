package jandrel.acceptance;

import static jandrel.acceptance.Harbour.soon;

import java.util.concurrent.Callable;
import java.util.concurrent.CountDownLatch;
import java.util.function.Consumer;

/** The service dies in a write, and comes back. */
final class CutOff {
    private CutOff() {}

    /** In the write that a call brings about: once the call itself was answered, however quick the write is. */
    static <T> T in(Harbour h, Consumer<Runnable> gate, Callable<T> call) throws Exception {
        CountDownLatch answered = new CountDownLatch(1);
        gate.accept(() -> {
            try {
                answered.await();
                h.process.service.kill();
            } catch (InterruptedException stopped) {
                Thread.currentThread().interrupt();
            }
        });
        try {
            return call.call();
        } finally {
            answered.countDown();
        }
    }

    static void comesBack(Harbour h, Gate gate) throws Exception {
        soon().until(gate::isSprung);
        soon().until(() -> !h.process.service.isAlive());
        h.process.service.start();
    }
}

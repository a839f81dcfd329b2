package PACKAGE;

import java.util.HashMap;
import java.util.Map;
import java.util.concurrent.locks.ReentrantLock;
import java.util.function.Supplier;

/** Makes for one key at a time; other keys do not wait, and a circle of makers is refused. */
final class Makings<K> {
    /** What is being made of a key. */
    private static final class Making {
        private final ReentrantLock lock = new ReentrantLock();
        private Thread maker; // null while nobody makes it
        private int threads; // that make it or wait for it
    }

    // Guards what is known of makings, of all pools: circles may lead through several.
    private static final Object KNOWN = new Object();
    private static final Map<Thread, Making> WAITING = new HashMap<>();

    private final Map<K, Making> underWay = new HashMap<>();
    private final String owner;

    Makings(String owner) {
        this.owner = owner;
    }

    <T> T alone(K key, Supplier<T> work) {
        Making making = entered(key);
        making.lock.lock();
        try {
            synchronized (KNOWN) {
                WAITING.remove(Thread.currentThread());
                making.maker = Thread.currentThread();
            }
            return work.get();
        } finally {
            synchronized (KNOWN) {
                making.maker = null;
                making.threads--;
                if (making.threads == 0) {
                    underWay.remove(key);
                }
            }
            making.lock.unlock();
        }
    }

    private Making entered(K key) {
        Thread self = Thread.currentThread();
        synchronized (KNOWN) {
            Making making = underWay.computeIfAbsent(key, unknown -> new Making());
            if (waitsFor(making, self)) {
                throw new CreationException.Refused(
                        owner, "its maker asks for the key that it makes");
            }
            making.threads++;
            WAITING.put(self, making);
            return making;
        }
    }

    /** Whether the making thread is that one, or waits for it, directly or through others. */
    private static boolean waitsFor(Making first, Thread thread) {
        Making making = first;
        while (making != null && making.maker != null) {
            if (making.maker == thread) {
                return true;
            }
            making = WAITING.get(making.maker);
        }
        return false;
    }
}

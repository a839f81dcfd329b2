package PACKAGE;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.function.BooleanSupplier;
import java.util.function.Supplier;
import org.junit.jupiter.api.function.Executable;

/** What the tests share: expected refusals, and threads. */
final class Shared {
    private Shared() {}

    static void missing(String owner, List<String> fields, Executable making) {
        var failure = assertThrows(CreationException.MissingFields.class, making);
        assertEquals(owner, failure.owner());
        assertEquals(fields, failure.fields());
        assertEquals(owner + ": missing " + String.join(", ", fields), failure.getMessage());
    }

    static void outOfLimit(
            String owner,
            String field,
            String limit,
            Object bound,
            String said,
            Executable making) {
        var failure = assertThrows(CreationException.OutOfLimit.class, making);
        assertEquals(said, failure.getMessage());
        assertEquals(owner + "." + field, failure.owner() + "." + failure.field());
        assertEquals(limit, failure.limit());
        assertEquals(bound, failure.bound());
    }

    static void unknownKey(String owner, String key, List<String> known, Executable making) {
        var failure = assertThrows(CreationException.UnknownKey.class, making);
        assertEquals(owner, failure.owner());
        assertEquals(key, failure.key());
        assertEquals(known, failure.known());
    }

    static void duplicateKey(String owner, String key, Executable registering) {
        var failure = assertThrows(CreationException.DuplicateKey.class, registering);
        assertEquals(owner, failure.owner());
        assertEquals(key, failure.key());
    }

    static void refused(String owner, String reason, Executable making) {
        var failure = assertThrows(CreationException.Refused.class, making);
        assertEquals(owner, failure.owner());
        assertEquals(reason, failure.reason());
    }

    /** A map with a null value, which Map.of would not make. */
    static <K, V> Map<K, V> withNull(Map<K, V> others, K key) {
        Map<K, V> all = new HashMap<>(others);
        all.put(key, null);
        return all;
    }

    /** Tries a change; a refusal is as good as no effect. */
    static void attempt(Runnable change) {
        try {
            change.run();
        } catch (UnsupportedOperationException refused) {
            return;
        }
    }

    /** What as many threads get that ask at the same moment. */
    static <T> List<T> together(int threads, Supplier<T> ask) {
        ExecutorService pool = Executors.newFixedThreadPool(threads);
        try {
            CyclicBarrier barrier = new CyclicBarrier(threads);
            List<Future<T>> asked = new ArrayList<>();
            for (int i = 0; i < threads; i++) {
                asked.add(pool.submit(() -> {
                    barrier.await();
                    return ask.get();
                }));
            }
            List<T> got = new ArrayList<>();
            for (Future<T> one : asked) {
                got.add(one.get());
            }
            return got;
        } catch (InterruptedException | ExecutionException failure) {
            throw new AssertionError(failure);
        } finally {
            pool.shutdownNow();
        }
    }

    /** What is asked for, if it comes in time. */
    static <T> T within(long milliseconds, Supplier<T> ask) {
        var asked = CompletableFuture.supplyAsync(ask);
        return asked.orTimeout(milliseconds, TimeUnit.MILLISECONDS).join();
    }

    /** Waits for something, but not for ever; tells whether it came. */
    static boolean until(long milliseconds, BooleanSupplier holds) {
        long end = System.nanoTime() + milliseconds * 1_000_000;
        while (!holds.getAsBoolean()) {
            if (System.nanoTime() > end) {
                return false;
            }
            Thread.yield();
        }
        return true;
    }
}

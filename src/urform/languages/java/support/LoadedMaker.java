package PACKAGE;

import java.lang.reflect.Constructor;
import java.lang.reflect.InvocationTargetException;
import java.util.concurrent.locks.ReentrantLock;
import java.util.function.Supplier;

/**
 * A maker that is loaded when it is first asked for: once, however many threads ask. A loader that
 * fails or gives no maker is called again when the maker is asked for again.
 */
final class LoadedMaker<M> {
    /** Makes one of a type from what a maker is given. */
    interface Kind<T> {
        T make(Object... given);
    }

    private final ReentrantLock alone = new ReentrantLock();
    private final String owner;
    private Supplier<? extends M> loader;
    private volatile M maker;

    LoadedMaker(String owner, Supplier<? extends M> loader) {
        this.owner = owner;
        this.loader = loader;
    }

    M get() {
        M loaded = maker;  // «#loaded#»
        if (loaded != null) {
            return loaded;
        }
        alone.lock();  // «#alone#»
        try {
            loaded = maker;
            if (loaded == null) {
                loaded = loader.get();  // «#load#»
                if (loaded == null) {  // «#check#»
                    throw new CreationException.Refused(owner, "its loader gives no maker");
                }
                maker = loaded;
            }
            return loaded;
        } finally {
            alone.unlock();  // «#alone#»
        }
    }

    /** The class of a name. */
    static Class<?> named(String owner, String name) {
        try {
            return Class.forName(name);  // «#look#»
        } catch (ReflectiveOperationException cause) {
            throw refused(owner, "there is no class " + name, cause);
        }
    }

    /** Makes by the public constructor of a class that has these parameters; the class is one of a type. */
    static <T> Kind<T> kind(String owner, Class<T> type, Class<?> found, Class<?>... parameters) {
        if (!type.isAssignableFrom(found)) {
            String reason = found.getName() + " is neither a " + owner + " nor a maker of one";
            throw new CreationException.Refused(owner, reason);
        }
        try {
            Constructor<?> constructor = found.getConstructor(parameters);
            return given -> type.cast(made(owner, constructor, given));
        } catch (ReflectiveOperationException cause) {
            throw refused(owner, "there is no public constructor " + cause.getMessage(), cause);
        }
    }

    private static Object made(String owner, Constructor<?> constructor, Object... given) {
        try {
            return constructor.newInstance(given);
        } catch (InvocationTargetException failure) {
            if (failure.getCause() instanceof RuntimeException cause) {
                throw cause;
            }
            throw refused(owner, "its constructor fails", failure.getCause());
        } catch (ReflectiveOperationException cause) {
            throw refused(owner, "its constructor cannot be called", cause);
        }
    }

    private static CreationException refused(String owner, String reason, Throwable cause) {
        CreationException refusal = new CreationException.Refused(owner, reason);
        refusal.initCause(cause);
        return refusal;
    }
}

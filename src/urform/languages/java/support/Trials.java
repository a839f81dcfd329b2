package urform.faults;

import static org.junit.platform.engine.discovery.DiscoverySelectors.selectMethod;

import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
import java.io.StringWriter;
import java.net.URL;
import java.net.URLClassLoader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicReference;
import javax.tools.JavaCompiler;
import javax.tools.StandardJavaFileManager;
import javax.tools.ToolProvider;
import org.junit.platform.engine.TestExecutionResult;
import org.junit.platform.engine.discovery.MethodSelector;
import org.junit.platform.engine.support.descriptor.MethodSource;
import org.junit.platform.launcher.Launcher;
import org.junit.platform.launcher.TestExecutionListener;
import org.junit.platform.launcher.TestIdentifier;
import org.junit.platform.launcher.core.LauncherDiscoveryRequestBuilder;
import org.junit.platform.launcher.core.LauncherFactory;

/**
 * Runs tests against classes with a fault, many faults a virtual machine: the changed sources are compiled in process, and
 * stand before the sound classes in a class loader of their own.
 *
 * <p>Arguments: the folder of sound classes, a file with lines {@code trial NUMBER}, {@code file SOURCE},
 * {@code test CLASS#METHOD}, and the seconds that a trial may take. Prints {@code NUMBER run CLASS.METHOD}, {@code NUMBER failed CLASS.METHOD},
 * {@code NUMBER broke TEXT}, {@code NUMBER end}.
 */
public final class Trials {
    private static final PrintStream OUT = new PrintStream(System.out, true, StandardCharsets.UTF_8);

    private final JavaCompiler compiler = ToolProvider.getSystemJavaCompiler();
    private final StandardJavaFileManager files = compiler.getStandardFileManager(null, null, StandardCharsets.UTF_8);
    private final Launcher launcher = LauncherFactory.create();
    private final Path sound;
    private final long seconds;

    private Trials(Path sound, long seconds) {
        this.sound = sound;
        this.seconds = seconds;
    }

    /** Runs all trials. */
    public static void main(String[] arguments) throws Exception {
        System.setOut(new PrintStream(OutputStream.nullOutputStream(), true, StandardCharsets.UTF_8));
        Trials trials = new Trials(Path.of(arguments[0]), Long.parseLong(arguments[2]));
        Path list = Path.of(arguments[1]);
        String number = null;
        List<Path> sources = new ArrayList<>();
        List<String> tests = new ArrayList<>();
        for (String line : Files.readAllLines(list)) {
            String what = line.substring(line.indexOf(' ') + 1);
            if (line.startsWith("trial ")) {
                trials.run(number, sources, tests);
                number = what;
                sources = new ArrayList<>();
                tests = new ArrayList<>();
            } else if (line.startsWith("file ")) {
                sources.add(Path.of(what));
            } else {
                tests.add(what);
            }
        }
        trials.run(number, sources, tests);
        System.exit(0);
    }

    private void run(String number, List<Path> sources, List<String> tests) throws Exception {
        if (number == null) {
            return;
        }
        Path faulty = Files.createTempDirectory(sound.toAbsolutePath().getParent(), "trial-");
        String broke = sources.isEmpty() ? "" : compiled(sources, faulty);
        if (broke.isEmpty()) {
            URL[] places = {faulty.toUri().toURL(), sound.toUri().toURL()};
            URLClassLoader loader = new URLClassLoader(places, Trials.class.getClassLoader());
            AtomicReference<String> running = new AtomicReference<>("");
            Thread thread = new Thread(() -> test(number, tests, loader, running));
            thread.setDaemon(true);
            thread.setContextClassLoader(loader);
            thread.start();
            thread.join(seconds * 1000);
            if (thread.isAlive()) {
                say(number, "failed", running.get());
            }
        } else {
            say(number, "broke", broke);
        }
        say(number, "end", "");
    }

    private String compiled(List<Path> sources, Path into) throws IOException {
        StringWriter said = new StringWriter();
        String path = sound + java.io.File.pathSeparator + System.getProperty("java.class.path");
        List<String> options = List.of("-proc:none", "-nowarn", "-cp", path, "-d", into.toString());
        boolean good =
                compiler.getTask(said, files, null, options, null, files.getJavaFileObjectsFromPaths(sources)).call();
        return good ? "" : said.toString();
    }

    private void test(String number, List<String> tests, ClassLoader loader, AtomicReference<String> running) {
        try {
            List<MethodSelector> selectors = new ArrayList<>();
            for (String test : tests) {
                String[] parts = test.split("#");
                selectors.add(selectMethod(Class.forName(parts[0], false, loader), parts[1]));
            }
            var request = LauncherDiscoveryRequestBuilder.request().selectors(selectors).build();
            launcher.execute(request, new Telling(number, running));
        } catch (Throwable failure) {
            say(number, "broke", failure.toString());
        }
    }

    private static synchronized void say(String number, String word, String what) {
        OUT.println(number + " " + word + " " + what.replace("\\", "\\\\").replace("\n", "\\n").replace("\r", ""));
    }

    /** Tells how each test ended. */
    private static final class Telling implements TestExecutionListener {
        private final String number;
        private final AtomicReference<String> running;

        Telling(String number, AtomicReference<String> running) {
            this.number = number;
            this.running = running;
        }

        @Override
        public void executionStarted(TestIdentifier identifier) {
            if (identifier.isTest()) {
                running.set(name(identifier));
                say(number, "run", running.get());
            }
        }

        @Override
        public void executionFinished(TestIdentifier identifier, TestExecutionResult result) {
            if (result.getStatus() != TestExecutionResult.Status.FAILED) {
                return;
            }
            Throwable failure = result.getThrowable().orElse(null);
            if (failure instanceof IncompatibleClassChangeError || !identifier.isTest()) {
                say(number, "broke", String.valueOf(failure));
            } else {
                say(number, "failed", name(identifier));
            }
        }

        private static String name(TestIdentifier identifier) {
            MethodSource source = (MethodSource) identifier.getSource().orElseThrow();
            String type = source.getClassName();
            return type.substring(type.lastIndexOf('.') + 1) + "." + source.getMethodName();
        }
    }
}

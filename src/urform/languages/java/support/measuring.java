    private static final int BATCHES = 9;
    private static String[] asked = {};
    private static Object kept;

    /** Prints what making one takes, or what many weigh, as one line of JSON: time SECONDS, or memory NAME COUNT. */
    @SafeVarargs
    private static void measure(String name, java.util.function.Supplier<Object>... makers) {
        if (asked[0].equals("time")) {
            String found = java.util.Arrays.toString(timed(makers[0], Double.parseDouble(asked[1])));
            System.out.println("{\"name\": \"" + name + "\", \"seconds\": " + found + "}");
        } else if (name.equals(asked[1])) {
            long found = weighed(makers, Integer.parseInt(asked[2]));
            System.out.println("{\"name\": \"" + name + "\", \"bytes\": " + found + "}");
        }
    }

    /** Seconds for one, batch by batch; each batch takes so many seconds, or so. The compiler has seen it often by then. */
    private static double[] timed(java.util.function.Supplier<Object> make, double seconds) {
        int count = 1;
        double taken = batch(make, 1);
        for (int rounds = 0; taken < seconds / 4 || rounds < 12; rounds++) {
            count = taken < seconds / 4 ? count * 2 : count;
            taken = batch(make, count);
        }
        count = (int) Math.max(1, count * seconds / taken);
        double[] found = new double[BATCHES];
        for (int number = 0; number < BATCHES; number++) {
            found[number] = batch(make, count) / count;
        }
        return found;
    }

    private static double batch(java.util.function.Supplier<Object> make, int count) {
        long started = System.nanoTime();
        for (int number = 0; number < count; number++) {
            kept = make.get();
        }
        return Math.max(System.nanoTime() - started, 1) / 1e9;
    }

    /** Bytes that so many products take, with the array that holds them. */
    private static long weighed(java.util.function.Supplier<Object>[] makers, int count) {
        for (java.util.function.Supplier<Object> make : makers) {
            kept = make.get();
        }
        long before = heap();
        Object[] held = new Object[count];
        for (int number = 0; number < count; number++) {
            held[number] = makers[number % makers.length].get();
        }
        long after = heap();
        kept = held;
        return Math.max(after - before, 0);
    }

    /** What is in use once nothing more is collected. */
    private static long heap() {
        long last = Long.MAX_VALUE;
        for (int rounds = 0; rounds < 30; rounds++) {
            System.gc();
            java.util.concurrent.locks.LockSupport.parkNanos(2_000_000);
            long used = Runtime.getRuntime().totalMemory() - Runtime.getRuntime().freeMemory();
            if (used >= last && rounds > 3) {
                return used;
            }
            last = used;
        }
        return last;
    }

    /** The language's own map, read by a key that it has. */
    private static void mapRead() {
        java.util.Map<String, Object> map = new java.util.HashMap<>();
        map.put("north", new Object());
        measure("map read", () -> map.get("north"));
    }

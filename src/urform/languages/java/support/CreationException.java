package PACKAGE;

import java.util.List;

/** The base of all errors of creation. Each keeps its details as data, in the words of the declaration. */
public abstract sealed class CreationException extends IllegalArgumentException {
    private static final long serialVersionUID = 1L;

    private final String owner;

    private CreationException(String owner, String message) {
        super(message);
        this.owner = owner;
    }

    /** The product, or the family, that was asked for or that declares the limit. */
    public String owner() {
        return owner;
    }

    /** Required fields were not given. */
    public static final class MissingFields extends CreationException {
        private static final long serialVersionUID = 1L;

        private final String[] fields;

        public MissingFields(String owner, List<String> fields) {
            super(owner, owner + ": missing " + String.join(", ", fields));
            this.fields = fields.toArray(String[]::new);
        }

        public List<String> fields() {
            return List.of(fields);
        }
    }

    /** A value is outside its limit. */
    public static final class OutOfLimit extends CreationException {
        private static final long serialVersionUID = 1L;

        private final String field;
        private final String limit;
        private final transient Object bound;

        public OutOfLimit(String owner, String field, String limit, Object bound) {
            super(
                    owner,
                    owner + "." + field + ": breaks " + limit + (bound == null ? "" : " " + bound));
            this.field = field;
            this.limit = limit;
            this.bound = bound;
        }

        public String field() {
            return field;
        }

        public String limit() {
            return limit;
        }

        /** The limit's value, null where it has none and after deserialising. */
        public Object bound() {
            return bound;
        }
    }

    /** The key is unknown. */
    public static final class UnknownKey extends CreationException {
        private static final long serialVersionUID = 1L;

        private final String key;
        private final String[] known;

        public UnknownKey(String owner, String key, List<String> known) {
            super(
                    owner,
                    owner + ": unknown key \"" + key + "\", known: " + String.join(", ", known));
            this.key = key;
            this.known = known.toArray(String[]::new);
        }

        public String key() {
            return key;
        }

        /** The known keys, sorted. */
        public List<String> known() {
            return List.of(known);
        }
    }

    /** The key is taken. */
    public static final class DuplicateKey extends CreationException {
        private static final long serialVersionUID = 1L;

        private final String key;

        public DuplicateKey(String owner, String key) {
            super(owner, owner + ": key \"" + key + "\" is taken");
            this.key = key;
        }

        public String key() {
            return key;
        }
    }

    /** These values give no product. */
    public static final class Refused extends CreationException {
        private static final long serialVersionUID = 1L;

        private final String reason;

        public Refused(String owner, String reason) {
            super(owner, owner + ": refused, " + reason);
            this.reason = reason;
        }

        public String reason() {
            return reason;
        }
    }
}

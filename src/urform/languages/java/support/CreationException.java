package PACKAGE;

import java.util.List;

/** The base of all errors of creation. Each keeps its details as data, in the words of the declaration. */
public abstract sealed class CreationException extends IllegalArgumentException {
    private static final long serialVersionUID = 1L;

    /** The product or family. */
    private final String owner;

    private CreationException(String owner, String message) {
        super(message);
        this.owner = owner;
    }

    /** {@return the product, or the family, that was asked for or that declares the limit} */
    public String owner() {
        return owner;
    }

    /** Required fields were not given. */
    public static final class MissingFields extends CreationException {
        private static final long serialVersionUID = 1L;

        /** The names of the fields. */
        private final String[] fields;

        /**
         * Creates the error.
         *
         * @param owner the product that was to be created
         * @param fields the fields that were not given
         */
        public MissingFields(String owner, List<String> fields) {
            super(owner, owner + ": missing " + String.join(", ", fields));
            this.fields = fields.toArray(String[]::new);
        }

        /** {@return the fields that were not given, in the order of the declaration} */
        public List<String> fields() {
            return List.of(fields);
        }
    }

    /** A value is outside its limit. */
    public static final class OutOfLimit extends CreationException {
        private static final long serialVersionUID = 1L;

        /** The name of the field. */
        private final String field;

        /** The name of the limit. */
        private final String limit;

        private final transient Object bound;

        private final transient Object value;

        /**
         * Creates the error.
         *
         * @param owner the product that declares the limit
         * @param field the field that has the limit
         * @param limit the name of the limit, as {@code min}
         * @param bound the value of the limit, or null
         * @param value what was found: the value, or the length of a collection; null where it is a
         *     secret
         */
        public OutOfLimit(String owner, String field, String limit, Object bound, Object value) {
            super(owner, Messages.of(owner, field, limit, bound, value));
            this.field = field;
            this.limit = limit;
            this.bound = bound;
            this.value = value;
        }

        /** {@return the field that has the limit} */
        public String field() {
            return field;
        }

        /** {@return the name of the limit, as {@code min}} */
        public String limit() {
            return limit;
        }

        /** {@return the value of the limit, null where it has none and after deserialising} */
        public Object bound() {
            return bound;
        }

        /**
         * {@return what was found: the value, or the length of a collection; null where it is a secret
         * and after deserialising}
         */
        public Object value() {
            return value;
        }
    }

    /** The key is unknown. */
    public static final class UnknownKey extends CreationException {
        private static final long serialVersionUID = 1L;

        /** The key that was asked for. */
        private final String key;

        /** The known keys. */
        private final String[] known;

        /**
         * Creates the error.
         *
         * @param owner the product, family or choice that was asked for
         * @param key the key that was asked for
         * @param known the known keys, sorted
         */
        public UnknownKey(String owner, String key, List<String> known) {
            super(
                    owner,
                    owner + ": unknown key \"" + key + "\", known: " + String.join(", ", known));
            this.key = key;
            this.known = known.toArray(String[]::new);
        }

        /** {@return the key that was asked for} */
        public String key() {
            return key;
        }

        /** {@return the known keys, sorted} */
        public List<String> known() {
            return List.of(known);
        }
    }

    /** The key is taken. */
    public static final class DuplicateKey extends CreationException {
        private static final long serialVersionUID = 1L;

        /** The key that is taken. */
        private final String key;

        /**
         * Creates the error.
         *
         * @param owner the product whose key it is
         * @param key the key that is taken
         */
        public DuplicateKey(String owner, String key) {
            super(owner, owner + ": key \"" + key + "\" is taken");
            this.key = key;
        }

        /** {@return the key that is taken} */
        public String key() {
            return key;
        }
    }

    /** These values give no product. */
    public static final class Refused extends CreationException {
        private static final long serialVersionUID = 1L;

        /** Why. */
        private final String reason;

        /**
         * Creates the error.
         *
         * @param owner the product that was asked for
         * @param reason why there is none
         */
        public Refused(String owner, String reason) {
            super(owner, owner + ": refused, " + reason);
            this.reason = reason;
        }

        /** {@return why there is no product} */
        public String reason() {
            return reason;
        }
    }
}


    /** No product is made of a record. */
    public static final class BadRecord extends CreationException {
        private static final long serialVersionUID = 1L;

        private final transient List<RecordProblem> problems;

        /**
         * Creates the error.
         *
         * @param owner the product that was to be made
         * @param problems everything that is wrong with the record
         */
        public BadRecord(String owner, List<RecordProblem> problems) {
            super(owner, owner + ": not made of this record" + told(problems));
            this.problems = List.copyOf(problems);
        }

        private static String told(List<RecordProblem> problems) {
            StringBuilder lines = new StringBuilder();
            problems.forEach(problem -> lines.append("\n  ").append(problem));
            return lines.toString();
        }

        /** {@return everything that is wrong with the record, null after deserialising} */
        public List<RecordProblem> problems() {
            return problems;
        }
    }

package PACKAGE;

/**
 * One thing that is wrong with a record: where, and what.
 *
 * @param path the way to it, as {@code legs[1].hours}
 * @param text what is wrong there
 * @param owner the product that declares the field, or whose record it is
 * @param field the field, or a name in the record
 * @param limit the name of a limit, or one of missing, type, range, kind, unknown, refused, depth
 * @param bound the value of the limit, or null
 * @param value what was found; null where it is a secret
 * @param record its place in a list of records, counted from 0, or -1
 */
public record RecordProblem(
        String path,
        String text,
        String owner,
        String field,
        String limit,
        Object bound,
        Object value,
        int record) {
    RecordProblem at(String path, int record) {
        return new RecordProblem(path, text, owner, field, limit, bound, value, record);
    }

    @Override
    public String toString() {
        return path.isEmpty() ? text : path + ": " + text;
    }
}

package harbour.station;

import harbour.varrow.marks.Mark;
import harbour.varrow.marks.MarkRegistry;
import harbour.varrow.marks.Round;

/** What the watch writes down. */
public final class Watch {
    private Watch() {}

    /** A round that has seen one mark. */
    public static Round begin(String watch, String kind, long station) {
        Mark mark = new MarkRegistry().make(kind, station, new Mark.Options());
        return new Round.Builder().watch(watch).addSighting(mark.key() + " " + mark.station()).build();
    }
}

package harbour.station;

import static org.junit.jupiter.api.Assertions.assertEquals;

import java.util.List;
import org.junit.jupiter.api.Test;

final class WatchTest {
    @Test
    void aRoundBeginsWithWhatWasSeen() {
        assertEquals(List.of("buoy 7"), Watch.begin("first", "buoy", 7).seen());
    }
}

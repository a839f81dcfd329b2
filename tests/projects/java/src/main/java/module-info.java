/** The signal station. */
module harbour.station {
    exports harbour.station;
    exports harbour.varrow.marks;
}

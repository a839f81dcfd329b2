import { MarkRegistry, RoundBuilder, type Round } from "./marks/index.js";

/** Begins a round that has seen one mark. */
export function begin(watch: string, kind: string, station: number): Round {
  const mark = new MarkRegistry().make(kind, { station });
  return new RoundBuilder().watch(watch).addSighting(`${mark.key} ${mark.station}`).build();
}

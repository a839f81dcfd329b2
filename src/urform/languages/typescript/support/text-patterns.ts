// The forms of texts, as tables: a text is looked at once, character by character, and means the same in every language.

import { LimitError } from "./errors.js";

const ASCII = 0x80;

/** What texts look like: a row of `moves` leads from a state to others, by the kind of the next character. */
export class TextPattern {
  readonly #limit: string;
  readonly #bound: string | undefined;
  readonly #starts: readonly number[];
  readonly #kinds: readonly number[];
  readonly #ofAscii: Uint16Array;
  readonly #moves: Uint16Array;
  readonly #width: number;
  readonly #ends: Uint8Array;

  /** `kinds` are those of the characters from each of `starts` on. State 0 refuses everything, state 1 is the first. */
  constructor(
    limit: string,
    bound: string | undefined,
    starts: readonly number[],
    kinds: readonly number[],
    moves: readonly (readonly number[])[],
    ends: readonly number[],
  ) {
    this.#limit = limit;
    this.#bound = bound;
    this.#starts = starts;
    this.#kinds = kinds;
    this.#ofAscii = Uint16Array.from({ length: ASCII }, (_, at) =>
      this.#kind(at),
    );
    this.#moves = Uint16Array.from(moves.flat());
    this.#width = moves[0]?.length ?? 0;
    this.#ends = new Uint8Array(moves.length);
    for (const state of ends) {
      this.#ends[state] = 1;
    }
  }

  /** Whether the whole text has the form. */
  accepts(text: string): boolean {
    const ofAscii = this.#ofAscii;
    const moves = this.#moves;
    const width = this.#width;
    let state = 1;
    for (let at = 0; at < text.length; at += 1) {
      const unit = text.charCodeAt(at);
      let kind = ofAscii[unit];
      if (kind === undefined) {
        const point = text.codePointAt(at) as number;
        at += point > 0xffff ? 1 : 0;
        kind = this.#kind(point);
      }
      state = moves[state * width + kind] as number;
    }
    return this.#ends[state] === 1;
  }

  #kind(point: number): number {
    let low = 0;
    let high = this.#starts.length;
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if ((this.#starts[middle] as number) <= point) {
        low = middle;
      } else {
        high = middle;
      }
    }
    return this.#kinds[low] as number;
  }

  /** A text of the form; a secret one stands in no error. */
  check(
    owner: string,
    field: string,
    value: string,
    within = "",
    secret = false,
  ): string {
    if (!this.accepts(value)) {
      const limit = within + this.#limit;
      const told = secret ? undefined : value;
      throw new LimitError(owner, field, limit, this.#bound, told, "a text");
    }
    return value;
  }
}

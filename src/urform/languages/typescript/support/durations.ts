/**
 * A length of time such as `PT26H30M` or `-PT0.5S` (ISO 8601), of at most 100,000 days, as products hold it: in hours, minutes and
 * seconds. The compiler knows a literal for one that begins like this; `durationOf` reads others.
 */
export type Duration = `P${string}` | `-P${string}`;

const FORM =
  /^(-?)P(?=[0-9T])(?:([0-9]{1,5})W|(?:([0-9]{1,6})D)?(?:T(?=[0-9])(?:([0-9]{1,7})H)?(?:([0-9]{1,9})M)?(?:([0-9]{1,10})(?:\.([0-9]{1,6}))?S)?)?)$/;
const MOST_SECONDS = 100_000 * 24 * 60 * 60;

/** The duration that a text tells as ISO 8601 has it, a day being 24 hours; undefined where it tells none. */
export function durationOf(text: string): Duration | undefined {
  const micros = counted(text);
  return micros === undefined ? undefined : durationFrom(micros);
}

/** The duration of so many microseconds; undefined where they are no whole number, or too many. */
export function durationFrom(microseconds: number): Duration | undefined {
  const total = Math.abs(microseconds);
  if (!Number.isInteger(microseconds) || total > MOST_SECONDS * 1_000_000) {
    return undefined;
  }
  const minutes = Math.floor(total / 60_000_000);
  const rest = total % 60_000_000;
  const hours = minutes < 60 ? "" : `${String(Math.floor(minutes / 60))}H`;
  let told = hours + (minutes % 60 === 0 ? "" : `${String(minutes % 60)}M`);
  if (rest > 0 || told === "") {
    const fraction = String(rest % 1_000_000).padStart(6, "0");
    const digits = fraction.replace(/0+$/, "");
    told += `${String(Math.floor(rest / 1_000_000))}${digits && `.${digits}`}S`;
  }
  return microseconds < 0 ? `-PT${told}` : `PT${told}`;
}

/** How many microseconds a duration has; NaN for a text that is none. */
export function microseconds(duration: string): number {
  return counted(duration) ?? NaN;
}

/** Whether a text is a duration as products hold it. */
export function isDuration(text: string): text is Duration {
  return durationOf(text) === text;
}

/** A negative number where a duration is shorter than the other, a positive one where it is longer, and else 0. */
export function compareDurations(one: string, other: string): number {
  return microseconds(one) - microseconds(other);
}

function counted(text: string): number | undefined {
  const parts = FORM.exec(text);
  if (parts === null) {
    return undefined;
  }
  const [sign, fraction] = [parts[1], parts[7] ?? ""];
  const [weeks = 0, days = 0, hours = 0, minutes = 0, seconds = 0] = parts
    .slice(2, 7)
    .map((part: string | undefined) => Number(part ?? 0));
  const whole =
    (((weeks * 7 + days) * 24 + hours) * 60 + minutes) * 60 + seconds;
  const micros = Number(fraction.padEnd(6, "0"));
  if (whole > MOST_SECONDS || (whole === MOST_SECONDS && micros > 0)) {
    return undefined;
  }
  const total = whole * 1_000_000 + micros;
  return sign === "-" && total > 0 ? -total : total;
}

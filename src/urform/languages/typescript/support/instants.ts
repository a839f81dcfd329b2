/**
 * A point in time such as `2026-12-01T05:30:00Z`, in the years 0001 to 9999, as products hold it: in UTC, with at most six
 * digits of a second and no zeros at their end. The compiler knows a literal for one of this form; `instantOf` reads others.
 */
export type Instant =
  `${number}-${number}-${number}T${number}:${number}:${number}Z`;

const FORM =
  /^([0-9]{4}-[0-9]{2}-[0-9]{2}T(?:[01][0-9]|2[0-3]):[0-5][0-9]:[0-5][0-9])(?:\.([0-9]{1,6}))?(?:Z|([+-])([01][0-9]|2[0-3]):([0-5][0-9]))$/;

/** The instant that a text tells as RFC 3339 has it, whatever its offset; undefined where it tells none. */
export function instantOf(text: string): Instant | undefined {
  const [, clock = "", fraction = "", sign = "", hours = "", minutes = ""] =
    FORM.exec(text.toUpperCase()) ?? [];
  const local = Date.parse(`${clock}Z`);
  if (Number.isNaN(local) || !new Date(local).toISOString().startsWith(clock)) {
    return undefined; // there is no such day
  }
  const offset = (Number(hours) * 60 + Number(minutes)) * 60_000;
  const utc = new Date(local + (sign === "-" ? offset : -offset)).toISOString();
  if (utc.length !== "0001-01-01T00:00:00.000Z".length || utc < "0001") {
    return undefined;
  }
  const digits = fraction.replace(/0+$/, "");
  return `${utc.slice(0, 19)}${digits && `.${digits}`}Z` as Instant;
}

/** Whether a text is an instant as products hold it. */
export function isInstant(text: string): text is Instant {
  return instantOf(text) === text;
}

/** A negative number where an instant is earlier than the other, a positive one where it is later, and else 0. */
export function compareInstants(one: string, other: string): number {
  const [first, second] = [one.slice(0, -1), other.slice(0, -1)]; // without the Z, which comes after a point
  return first < second ? -1 : first > second ? 1 : 0;
}

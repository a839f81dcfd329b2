/**
 * A time of day such as `06:30:00`, as products hold it: with at most six digits of a second and no zeros at their end. The
 * compiler knows a literal for one of this form; `timeOfDayOf` reads others. They are ordered as their texts are.
 */
export type TimeOfDay = `${number}:${number}:${number}`;

const FORM = /^(?:[01][0-9]|2[0-3]):[0-5][0-9]:[0-5][0-9](?:\.[0-9]{1,6})?$/;

/** The time of day that a text tells as RFC 3339 has it, without an offset; undefined where it tells none. */
export function timeOfDayOf(text: string): TimeOfDay | undefined {
  if (!FORM.test(text)) {
    return undefined;
  }
  const shortest = text.includes(".") ? text.replace(/\.?0+$/, "") : text;
  return shortest as TimeOfDay;
}

/** Whether a text is a time of day as products hold it. */
export function isTimeOfDay(text: string): text is TimeOfDay {
  return timeOfDayOf(text) === text;
}

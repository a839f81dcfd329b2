/**
 * A day such as `2026-12-01`, in the years 0001 to 9999. The compiler knows a literal for one of this form; of any other text
 * `isCalendarDate` tells. Days are ordered as their texts are.
 */
export type CalendarDate = `${number}-${number}-${number}`;

const FORM = /^([0-9]{4})-([0-9]{2})-([0-9]{2})$/;

/** Whether a text is a day of the Gregorian calendar, as RFC 3339 writes it. */
export function isCalendarDate(text: string): text is CalendarDate {
  const [year = 0, month = 0, day = 0] = (FORM.exec(text) ?? [])
    .slice(1)
    .map(Number);
  return year > 0 && day > 0 && day <= daysIn(year, month);
}

/** How many days a month has; none if there is no such month. */
function daysIn(year: number, month: number): number {
  const isLeap = year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0);
  const days = [31, isLeap ? 29 : 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];
  return days[month - 1] ?? 0;
}
